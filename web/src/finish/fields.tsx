import { NumberInput, TextInput } from '@mantine/core';
import { useState } from 'react';
import { MM } from '../crop/cropping';
import { t } from '../words';

interface TextProps {
  label: string;
  description?: string;
  value: string;
  placeholder?: string;
  onCommit: (value: string) => void;
}

/** A text that counts when it is left, or by Enter, so that undoing takes it back as a whole. */
export function TextField({ value, onCommit, ...props }: TextProps) {
  const [draft, setDraft] = useState<string>();
  const commit = () => {
    if (draft !== undefined && draft !== value) onCommit(draft);
    setDraft(undefined);
  };
  return (
    <TextInput
      {...props}
      value={draft ?? value}
      onChange={(event) => setDraft(event.currentTarget.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === 'Enter' && commit()}
    />
  );
}

interface CountProps {
  label: string;
  value: number;
  min: number;
  max: number;
  suffix?: string;
  decimals?: number;
  onCommit: (value: number) => void;
}

/** A number that counts when it is left, or by Enter. */
export function CountField({ value, min, max, decimals = 0, onCommit, ...props }: CountProps) {
  const [draft, setDraft] = useState<number | string>();
  const commit = () => {
    const typed = Number.parseFloat(String(draft));
    if (Number.isFinite(typed) && typed !== value) onCommit(Math.min(max, Math.max(min, typed)));
    setDraft(undefined);
  };
  return (
    <NumberInput
      {...props}
      value={draft ?? Number(value.toFixed(decimals))}
      decimalScale={decimals}
      min={min}
      max={max}
      hideControls
      onChange={setDraft}
      onBlur={commit}
      onKeyDown={(event) => event.key === 'Enter' && commit()}
    />
  );
}

/** How far from the paper's edge something is, in millimetres. */
export function EdgeField({ points, onCommit }: { points: number; onCommit: (points: number) => void }) {
  return (
    <CountField
      label={t('finish.fromTheEdge')}
      value={points / MM}
      min={0}
      max={100}
      decimals={1}
      suffix=" mm"
      onCommit={(millimetres) => onCommit(millimetres * MM)}
    />
  );
}
