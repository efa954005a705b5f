import { Button, FileButton } from '@mantine/core';
import { ACCEPTED } from '../intake/accepted';
import classes from './BenchView.module.css';

interface Props {
  hasSources: boolean;
  onFiles: (files: File[]) => void;
}

/** The wall before there are pages: how to begin. */
export function EmptyWall({ hasSources, onFiles }: Props) {
  return (
    <div className={classes.empty}>
      <h2>{hasSources ? 'No pages are placed' : 'Drop your papers here'}</h2>
      <p className="soft" style={{ maxWidth: 380, margin: 0 }}>
        {hasSources
          ? 'Place a file from the intake, bring back pages that were set aside, or add more files.'
          : 'PDFs, scans and photographs, several at once. Each file becomes a part whose pages you can put in order.'}
      </p>
      <FileButton multiple accept={ACCEPTED} onChange={onFiles}>
        {(props) => (
          <Button {...props} variant="filled">
            Choose files
          </Button>
        )}
      </FileButton>
    </div>
  );
}
