import { Checkbox, Select } from '@mantine/core';
import { t } from '../words';
import { CountField } from './fields';
import { LAYOUTS, type Finish } from './sections';

type Opening = Finish['opening'];

interface Props {
  opening: Opening;
  pages: number;
  onChange: (part: Partial<Opening>) => void;
}

const FITS = [
  { value: 'page', label: t('finish.fitPage') },
  { value: 'width', label: t('finish.fitWidth') },
  { value: 'actual', label: t('finish.fitActual') },
];

/** How a reader is asked to show the document first. */
export function OpeningSettings({ opening, pages, onChange }: Props) {
  return (
    <>
      <Select
        label={t('finish.layout')}
        data={Object.entries(LAYOUTS).map(([value, label]) => ({
          value,
          label: label.charAt(0).toUpperCase() + label.slice(1),
        }))}
        value={opening.layout}
        onChange={(value) => value && onChange({ layout: value as Opening['layout'] })}
      />
      <Select
        label={t('finish.fitted')}
        data={FITS}
        value={opening.fit}
        onChange={(value) => value && onChange({ fit: value as Opening['fit'] })}
      />
      <CountField
        label={t('finish.atPage')}
        value={opening.page}
        min={1}
        max={Math.max(1, pages)}
        onCommit={(page) => onChange({ page })}
      />
      <Checkbox
        label={t('finish.bookmarksShown')}
        checked={opening.bookmarks}
        onChange={(event) => onChange({ bookmarks: event.currentTarget.checked })}
      />
    </>
  );
}
