import { SegmentedControl } from '@mantine/core';
import type { Packet } from '../api/client';
import { t } from '../words';
import { FieldHint } from './FieldHint';
import { TextField } from './fields';
import { LooksSettings } from './LooksSettings';
import { PicturePicker } from './PicturePicker';
import { DESIGNS, type Finish } from './sections';

type Cover = Finish['cover'];

interface Props {
  cover: Cover;
  packet: Packet;
  onChange: (part: Partial<Cover>) => void;
}

/** What a cover says, and its design. */
export function CoverSettings({ cover, packet, onChange }: Props) {
  return (
    <>
      <SegmentedControl
        aria-label={t('finish.design')}
        data={Object.entries(DESIGNS).map(([value, label]) => ({ value, label }))}
        value={cover.design}
        onChange={(design) => onChange({ design: design as Cover['design'] })}
      />
      <TextField label={t('finish.title')} value={cover.title} onCommit={(title) => onChange({ title })} />
      <TextField label={t('finish.coverFrom')} value={cover.from} onCommit={(from) => onChange({ from })} />
      <TextField label={t('finish.coverTo')} value={cover.to} onCommit={(to) => onChange({ to })} />
      <TextField
        label={t('finish.reference')}
        value={cover.reference}
        onCommit={(reference) => onChange({ reference })}
      />
      <TextField label={t('finish.date')} value={cover.date} onCommit={(date) => onChange({ date })} />
      <FieldHint also={t('finish.emptyIsLeftOut')} />
      <PicturePicker
        label={t('finish.coverPicture')}
        placeholder={t('finish.none')}
        packet={packet}
        picture={cover.picture}
        onChange={(picture) => onChange({ picture })}
      />
      <LooksSettings looks={cover} onChange={onChange} />
    </>
  );
}
