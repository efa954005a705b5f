import { Button, FileButton } from '@mantine/core';
import type { ReactNode } from 'react';
import { ACCEPTED } from '../intake/accepted';
import { t } from '../words';
import classes from './PacketsView.module.css';

interface Props {
  /** Makes a packet of files, or an empty one, and opens it at an address after its own. */
  onBegin: (files: File[], at?: string) => void;
  /** Makes a packet of sample papers. */
  onSample: () => void;
  isBusy: boolean;
}

/** What a house without packets shows: the ways to begin. */
export function WaysToBegin({ onBegin, onSample, isBusy }: Props) {
  return (
    <div className={classes.empty}>
      <h2>{t('packets.dropYourPapersAnywhereIn')}</h2>
      <p className="soft">{t('packets.theyMakeAPacketPut')}</p>
      <div className={classes.ways}>
        <Way words={t('packets.filesInWords')}>
          <FileButton multiple accept={ACCEPTED} onChange={(files) => onBegin(files)}>
            {(props) => (
              <Button {...props} variant="filled">
                {t('packets.chooseFiles')}
              </Button>
            )}
          </FileButton>
        </Way>
        <Way words={t('packets.scannerInWords')}>
          <Button onClick={() => onBegin([], '/scan')}>{t('packets.scan')}</Button>
        </Way>
        <Way words={t('packets.cameraInWords')}>
          <Button onClick={() => onBegin([], '?show=camera')}>{t('packets.camera')}</Button>
        </Way>
        <Way words={t('packets.sampleInWords')}>
          <Button loading={isBusy} onClick={onSample}>
            {t('packets.sample')}
          </Button>
        </Way>
      </div>
    </div>
  );
}

function Way({ words, children }: { words: string; children: ReactNode }) {
  return (
    <div className={classes.way}>
      {children}
      <p className="soft small">{words}</p>
    </div>
  );
}
