import { Button, FileButton, Select } from '@mantine/core';
import type { Packet } from '../api/client';
import { upload } from '../intake/uploads';
import { t } from '../words';
import { CountField } from './fields';
import classes from './FinishView.module.css';
import type { Finish } from './sections';

type Picture = Finish['letterhead']['picture'];

interface Props {
  label: string;
  /** What is shown where nothing is chosen. */
  placeholder: string;
  packet: Packet;
  picture: Picture;
  onChange: (picture: Picture) => void;
}

/** Chooses a page of one of the packet's files; another file can be added, of which no pages are placed. */
export function PicturePicker({ label, placeholder, packet, picture, onChange }: Props) {
  const files = packet.sources.filter(({ state }) => state === 'ready');
  const chosen = files.find(({ id }) => id === picture.source);
  return (
    <>
      <div className={classes.pick}>
        <Select
          label={label}
          placeholder={placeholder}
          data={files.map(({ id, name }) => ({ value: id, label: name }))}
          value={chosen?.id ?? null}
          clearable
          onChange={(source) => onChange({ source: source ?? '', page: 1 })}
        />
        <FileButton onChange={(file) => file && upload(packet.id, [file], { place: 'intake' })}>
          {(props) => <Button {...props}>{t('finish.addAFile')}</Button>}
        </FileButton>
      </div>
      {chosen && chosen.pageCount > 1 && (
        <CountField
          label={t('finish.pageOfIt')}
          value={picture.page}
          min={1}
          max={chosen.pageCount}
          onCommit={(page) => onChange({ ...picture, page })}
        />
      )}
    </>
  );
}
