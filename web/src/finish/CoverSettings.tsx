import { SegmentedControl } from '@mantine/core';
import type { Packet, Page } from '../api/client';
import { allPages } from '../packet/apply';
import { LinkButton } from '../shared/LinkButton';
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
  /** The page that is shown. */
  shown: Page | undefined;
  onChange: (part: Partial<Cover>) => void;
  /** Has the page that is shown be the cover. */
  onUseShown: () => void;
}

/** What a cover says, and its design. */
export function CoverSettings({ cover, packet, shown, onChange, onUseShown }: Props) {
  const own = allPages(packet).find(({ id }) => id === cover.own);
  if (own) {
    return (
      <p className="soft">
        {t('finish.pageIsTheCover', { page: own.number })}{' '}
        <LinkButton onClick={() => onChange({ own: '' })}>{t('finish.makeOneInstead')}</LinkButton>
      </p>
    );
  }
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
      {shown && !shown.made && (
        <p className="soft">
          <LinkButton onClick={onUseShown}>{t('finish.usePageAsCover', { page: shown.number })}</LinkButton>
        </p>
      )}
    </>
  );
}
