import { SegmentedControl } from '@mantine/core';
import type { Packet } from '../api/client';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { FieldHint } from './FieldHint';
import { TextField } from './fields';
import { LooksSettings } from './LooksSettings';
import type { Finish } from './sections';
import { SIDES } from './sides';
import { WritingSettings } from './WritingSettings';

type Sheets = Finish['sheets'];

interface Props {
  sheets: Sheets;
  packet: Packet;
  onChange: (part: Partial<Sheets>) => void;
}

const KINDS = [
  { value: 'sheet', label: t('finish.asSheet') },
  { value: 'label', label: t('finish.asLabel') },
];

/** How parts are told apart: by a sheet before each, or by a label on its first page. */
export function SheetSettings({ sheets, packet, onChange }: Props) {
  const removed = packet.parts.filter(({ id }) => sheets.without.split(',').includes(id));
  return (
    <>
      <SegmentedControl
        aria-label={t('finish.sheetOrLabel')}
        data={KINDS}
        value={sheets.as}
        onChange={(as) => onChange({ as: as as Sheets['as'] })}
      />
      <TextField label={t('finish.text')} value={sheets.text} onCommit={(text) => onChange({ text })} />
      <FieldHint onPages also={t('finish.lettersCount')} />
      {sheets.as === 'label' ? (
        <>
          <SegmentedControl
            aria-label={t('finish.side')}
            data={SIDES}
            value={sheets.side}
            onChange={(side) => onChange({ side: side as Sheets['side'] })}
          />
          <WritingSettings writing={sheets} onChange={onChange} />
        </>
      ) : (
        <LooksSettings looks={sheets} onChange={onChange} />
      )}
      <TextField
        label={t('finish.notOn')}
        placeholder={t('finish.suchAsParts')}
        value={sheets.skip}
        onCommit={(skip) => onChange({ skip })}
      />
      {removed.length > 0 && (
        <p className="soft">
          {t('finish.sheetsRemoved', { parts: removed.map(({ title }) => title).join(', ') })}{' '}
          <LinkButton onClick={() => onChange({ without: '' })}>{t('finish.putThemBack')}</LinkButton>
        </p>
      )}
    </>
  );
}
