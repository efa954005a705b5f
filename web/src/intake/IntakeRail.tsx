import { Button, FileButton } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'wouter';
import type { Packet, Source } from '../api/client';
import { count } from '../shared/format';
import classes from './IntakeRail.module.css';
import { ACCEPTED } from './accepted';
import { OpenedSource } from './OpenedSource';
import { SourceRow } from './SourceRow';
import { UploadRow } from './UploadRow';
import { cancelUpload, onUploadFinished, useUploads } from './uploads';
import { useLostUploads } from './useOutcomes';
import { WaitingScan } from './WaitingScan';
import { t } from '../words';

interface Props {
  packet: Packet;
  onFiles: (files: File[]) => void;
  onUnlock: (source: Source) => void;
  onRemove: (source: Source) => void;
  onPlace: (source: Source, pages?: number[]) => void;
  onRemoveFile: (source: Source) => void;
  onCamera: () => void;
  onOpenSetAside: () => void;
}

/** Where things come in: the sources, what is on its way, and what was set aside. */
export function IntakeRail(props: Props) {
  const { packet, onFiles, onUnlock, onRemove, onPlace, onRemoveFile, onCamera, onOpenSetAside } = props;
  const [openedId, setOpened] = useState<string>();
  const opened = packet.sources.find((source) => source.id === openedId && source.state === 'ready');
  const uploads = useUploads(packet.id);
  useLostUploads(packet);
  useEffect(
    () =>
      onUploadFinished((outcome, upload) => {
        if (upload.wish.isToOpen && upload.packet === packet.id) setOpened(outcome.source);
      }),
    [packet.id],
  );
  const reset = useRef<() => void>(null);
  if (opened) {
    return (
      <aside className={classes.rail} aria-label={t('intake.intake')}>
        <OpenedSource
          key={opened.id}
          packet={packet}
          source={opened}
          onClose={() => setOpened(undefined)}
          onPlace={onPlace}
          onRemove={onRemoveFile}
        />
      </aside>
    );
  }
  return (
    <aside className={classes.rail} aria-label={t('intake.intake')}>
      <FileButton
        multiple
        accept={ACCEPTED}
        resetRef={reset}
        onChange={(files) => {
          onFiles(files);
          reset.current?.(); // so that the same file can be chosen again
        }}
      >
        {(props) => (
          <Button {...props} variant="filled">
            {t('intake.addFiles')}
          </Button>
        )}
      </FileButton>
      <div className={classes.ways}>
        <Button component={Link} href={`/packets/${packet.id}/scan`}>
          {t('intake.scan')}
        </Button>
        <Button onClick={onCamera}>{t('intake.camera')}</Button>
      </div>
      <h2 className={classes.title}>{t('intake.intake')}</h2>
      <div className={classes.list}>
        <WaitingScan packet={packet.id} />
        {uploads.map((upload) => (
          <UploadRow key={upload.id} upload={upload} onCancel={() => cancelUpload(upload.id)} />
        ))}
        {packet.sources.map((source) => (
          <SourceRow
            key={source.id}
            source={source}
            onUnlock={onUnlock}
            onRemove={onRemove}
            onPlace={onPlace}
            onOpen={() => setOpened(source.id)}
          />
        ))}
        {packet.sources.length === 0 && uploads.length === 0 && (
          <p className="soft">{t('intake.filesYouAddAreListed')}</p>
        )}
      </div>
      <Button onClick={onOpenSetAside} disabled={packet.setAside.length === 0}>
        {t('intake.setAside', { pages: count(packet.setAside.length, 'page') })}
      </Button>
    </aside>
  );
}
