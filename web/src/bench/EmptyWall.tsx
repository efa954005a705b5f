import { Button, FileButton } from '@mantine/core';
import { ACCEPTED } from '../intake/accepted';
import classes from './BenchView.module.css';
import { t } from '../words';

interface Props {
  hasSources: boolean;
  onFiles: (files: File[]) => void;
}

/** The wall before there are pages: how to begin. */
export function EmptyWall({ hasSources, onFiles }: Props) {
  return (
    <div className={classes.empty}>
      <h2>{hasSources ? t('bench.noPagesArePlaced') : t('bench.dropYourPapersHere')}</h2>
      <p className="soft" style={{ maxWidth: 380, margin: 0 }}>
        {hasSources ? t('bench.placeAFileFromThe') : t('bench.pdfsScansAndPhotographsSeveral')}
      </p>
      <FileButton multiple accept={ACCEPTED} onChange={onFiles}>
        {(props) => (
          <Button {...props} variant="filled">
            {t('bench.chooseFiles')}
          </Button>
        )}
      </FileButton>
    </div>
  );
}
