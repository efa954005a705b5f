import { SegmentedControl, TextInput } from '@mantine/core';
import { useState } from 'react';
import { count, rangeOf } from '../shared/format';
import { LinkButton } from '../shared/LinkButton';
import type { useChosenPages, Which } from './useChosenPages';
import { t } from '../words';

interface Props {
  chosen: ReturnType<typeof useChosenPages>;
  /** Pages of another size, which are left alone, or of which the same is cut from the edges. */
  others: number;
  isEverySize?: boolean;
  onEverySize?: (isEverySize: boolean) => void;
}

const CHOICES = [
  { value: 'these', label: t('crop.these') },
  { value: 'odd', label: t('crop.odd') },
  { value: 'even', label: t('crop.even') },
  { value: 'all', label: t('crop.allPages') },
];

/** Which pages the rectangle is for. */
export function WhichPages({ chosen, others, isEverySize = false, onEverySize }: Props) {
  const [draft, setDraft] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const shown = rangeOf(chosen.pages.map((page) => page.number));
  const finish = async () => {
    const text = draft?.trim();
    if (!text || text === shown) {
      setDraft(undefined);
      setProblem(undefined);
      return;
    }
    const wrong = await chosen.name(text).catch((error: Error) => error.message);
    setProblem(wrong);
    if (!wrong) setDraft(undefined);
  };
  return (
    <section aria-label={t('crop.whichPages')}>
      <h2>{t('crop.whichPages')}</h2>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void finish();
        }}
      >
        <TextInput
          aria-label={t('crop.pagesToCrop')}
          placeholder={t('crop.rangeExample')}
          value={draft ?? shown}
          error={problem}
          rightSection={<span className="soft small">{count(chosen.pages.length, 'page')}</span>}
          rightSectionWidth={76}
          onChange={(event) => setDraft(event.currentTarget.value)}
          onBlur={() => void finish()}
        />
      </form>
      <SegmentedControl
        fullWidth
        aria-label={t('crop.pages')}
        data={CHOICES}
        value={chosen.which}
        onChange={(value) => chosen.setWhich(value as Which)}
      />
      {others > 0 && (
        <p className="soft small">
          {isEverySize
            ? t('crop.otherSizeCut', { count: others })
            : t('crop.otherSizeLeftAlone', { count: others })}{' '}
          {onEverySize && (
            <LinkButton size="xs" onClick={() => onEverySize(!isEverySize)}>
              {isEverySize ? t('crop.leaveThemAlone') : t('crop.cropPagesOfEverySize')}
            </LinkButton>
          )}
        </p>
      )}
    </section>
  );
}
