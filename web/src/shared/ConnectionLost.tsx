import { useIsConnectionLost } from '../api/connection';
import { t } from '../words';
import classes from './ConnectionLost.module.css';

/** Says for as long as it is so that Dorbin does not answer. */
export function ConnectionLost() {
  const isLost = useIsConnectionLost();
  return (
    <div role="alert" className={isLost ? classes.line : undefined}>
      {isLost && t('shared.connectionLost')}
    </div>
  );
}
