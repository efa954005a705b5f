import type { CSSProperties } from 'react';
import { formatBytes } from '../shared/format';
import classes from './SourceRow.module.css';
import type { Upload } from './uploads';
import { t } from '../words';

interface Props {
  upload: Upload;
  onCancel: () => void;
}

/** A file on its way in. */
export function UploadRow({ upload, onCancel }: Props) {
  const share = upload.bytes > 0 ? upload.sent / upload.bytes : 0;
  const words = {
    waiting: t('intake.waiting', { size: formatBytes(upload.bytes) }),
    sending: t('intake.of', { sent: formatBytes(upload.sent), size: formatBytes(upload.bytes) }),
    reading: t('intake.readingItsPages'),
  }[upload.state];
  return (
    <div
      className={classes.row}
      style={{ '--origin': 'var(--spruce)' } as CSSProperties}
      data-testid="upload"
    >
      <i className={classes.origin} style={{ background: 'var(--rule)' }} />
      <div className={classes.body}>
        <b className={classes.name} title={upload.name}>
          {upload.name}
        </b>
        <div
          className={classes.bar}
          role="progressbar"
          aria-label={t('intake.adding', { name: upload.name })}
          aria-valuenow={Math.round(share * 100)}
          aria-valuemin={0}
          aria-valuemax={100}
        >
          <div style={{ width: `${share * 100}%` }} />
        </div>
        <div className={classes.placed}>
          <span className="soft small">{words}</span>
          <button
            type="button"
            className={classes.cancel}
            onClick={onCancel}
            aria-label={t('intake.stopAdding', { name: upload.name })}
          >
            {t('intake.stop')}
          </button>
        </div>
      </div>
    </div>
  );
}
