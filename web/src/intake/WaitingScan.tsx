import { Link } from 'wouter';
import { useBatch } from '../scan/useBatch';
import { t } from '../words';
import classes from './SourceRow.module.css';

/** Says that scanned pages wait to be placed, and leads to them. */
export function WaitingScan({ packet }: { packet: string }) {
  const { data } = useBatch(packet);
  const pages = data?.pages.length ?? 0;
  if (pages === 0 && !data?.scanning) return null;
  return (
    <Link href={`/packets/${packet}/scan`} className={classes.waiting}>
      {data?.scanning
        ? t('intake.scanning', { count: pages })
        : t('intake.scannedPagesAreWaiting', { count: pages })}
    </Link>
  );
}
