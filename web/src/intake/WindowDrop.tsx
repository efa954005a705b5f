import { Dropzone } from '@mantine/dropzone';
import classes from './WindowDrop.module.css';

interface Props {
  /** What dropping does, shown while files hover over the window. */
  hint: string;
  onFiles: (files: File[]) => void;
}

/** Takes files dropped anywhere on the window. */
export function WindowDrop({ hint, onFiles }: Props) {
  return (
    <Dropzone.FullScreen
      active
      inputProps={{ 'aria-label': 'Files to add' }}
      onDrop={onFiles}
      classNames={{ fullScreen: classes.screen, root: classes.root }}
    >
      <div className={classes.hint}>{hint}</div>
    </Dropzone.FullScreen>
  );
}
