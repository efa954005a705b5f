import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import { count } from '../shared/format';
import classes from '../shared/Toolbar.module.css';
import { t } from '../words';

interface Props {
  /** Of the current page. */
  number: number;
  /** How many pages are chosen. */
  chosen: number;
  scanning: boolean;
  onTurn: (by: number) => void;
  onEarlier?: () => void;
  onLater?: () => void;
  onAgain: () => void;
  onAfter: () => void;
  onLook: () => void;
  onRemove: () => void;
}

/** The acts on the chosen pages of the batch. */
export function BatchActs(props: Props) {
  const { number, chosen, scanning, onTurn, onEarlier, onLater, onAgain, onAfter, onLook, onRemove } = props;
  return (
    <div className={classes.bar} role="toolbar" aria-label={t('scan.actsOnTheChosenPage')}>
      <b className={classes.count}>{chosen > 1 ? count(chosen, 'page') : t('scan.page', { number })}</b>
      {chosen === 1 && (
        <Button onClick={onLook} title={t('scan.enterOrDoubleClick')}>
          {t('scan.look')}
        </Button>
      )}
      <Button leftSection={<IconRotate2 size={15} />} onClick={() => onTurn(270)} title="[">
        {t('scan.left')}
      </Button>
      <Button rightSection={<IconRotateClockwise2 size={15} />} onClick={() => onTurn(90)} title="]">
        {t('scan.right')}
      </Button>
      <Button onClick={() => onTurn(180)}>180°</Button>
      <Button disabled={!onEarlier} onClick={onEarlier}>
        {t('scan.earlier')}
      </Button>
      <Button disabled={!onLater} onClick={onLater}>
        {t('scan.later')}
      </Button>
      {chosen === 1 && (
        <>
          <Button disabled={scanning} onClick={onAgain}>
            {t('scan.scanAgain')}
          </Button>
          <Button disabled={scanning} onClick={onAfter}>
            {t('scan.scanAfter')}
          </Button>
        </>
      )}
      <Button onClick={onRemove} title={t('scan.deleteKey')}>
        {t('scan.remove')}
      </Button>
    </div>
  );
}
