import { NumberInput, Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import { MM } from '../crop/cropping';
import { t } from '../words';

/** A value that counts when its field is left, or by Enter, so that undoing takes it back as a whole. */
function useDraft<T>(commit: (draft: T) => void) {
  const [draft, setDraft] = useState<T>();
  const end = () => {
    if (draft !== undefined) commit(draft);
    setDraft(undefined);
  };
  return { draft, setDraft, end };
}

interface TextProps {
  label: string;
  isLabelHidden?: boolean;
  description?: string;
  value: string;
  placeholder?: string;
  disabled?: boolean;
  /** How many lines are shown of a text that may have several. */
  lines?: number;
  onCommit: (value: string) => void;
}

/** A text. */
export function TextField({ value, label, isLabelHidden = false, lines = 1, onCommit, ...props }: TextProps) {
  const { draft, setDraft, end } = useDraft<string>((text) => text !== value && onCommit(text));
  const named = isLabelHidden ? { 'aria-label': label } : { label };
  const field = { ...props, ...named, value: draft ?? value, onBlur: end };
  if (lines > 1) {
    return <Textarea {...field} rows={lines} onChange={(event) => setDraft(event.currentTarget.value)} />;
  }
  return (
    <TextInput
      {...field}
      onChange={(event) => setDraft(event.currentTarget.value)}
      onKeyDown={(event) => event.key === 'Enter' && end()}
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

/** A number. */
export function CountField({ value, min, max, decimals = 0, onCommit, ...props }: CountProps) {
  const { draft, setDraft, end } = useDraft<number | string>((text) => {
    const typed = Number.parseFloat(String(text));
    if (Number.isFinite(typed) && typed !== value) onCommit(Math.min(max, Math.max(min, typed)));
  });
  return (
    <NumberInput
      {...props}
      value={draft ?? Number(value.toFixed(decimals))}
      decimalScale={decimals}
      min={min}
      max={max}
      hideControls
      onChange={setDraft}
      onBlur={end}
      onKeyDown={(event) => event.key === 'Enter' && end()}
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
