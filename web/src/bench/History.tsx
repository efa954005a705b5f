import { Drawer } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { api, data } from '../api/client';
import { keys } from '../api/keys';
import { ago } from '../shared/format';
import classes from './History.module.css';
import { say, t } from '../words';

interface Props {
  packet: string;
  opened: boolean;
  onClose: () => void;
  /** Goes to where so many steps are done. */
  onTravel: (step: number) => void;
}

/** What was done, the last first; a step can be gone back to. */
export function History({ packet, opened, onClose, onTravel }: Props) {
  const { data: steps } = useQuery({
    queryKey: keys.history(packet),
    enabled: opened,
    queryFn: () => data(api.GET('/api/packets/{id}/history', { params: { path: { id: packet } } })),
  });
  const now = steps?.filter((step) => step.done).length ?? 0;
  return (
    <Drawer opened={opened} onClose={onClose} title={t('bench.whatWasDone')} position="right" size={360}>
      <ol className={classes.list} reversed>
        {steps?.toReversed().map((step) => (
          <li key={step.number} data-undone={!step.done || undefined}>
            <button
              type="button"
              className={classes.step}
              aria-current={step.number === now ? 'step' : undefined}
              onClick={() => onTravel(step.number)}
              title={step.done ? t('bench.goBackToAfterThis') : t('bench.redoUpToThisStep')}
            >
              <span className={classes.words}>{say(step.words)}</span>
              <span className={`soft small ${classes.when}`}>
                {step.number === now ? t('bench.now') : step.done ? ago(step.at) : t('bench.undone')}
              </span>
            </button>
          </li>
        ))}
        <li>
          <button
            type="button"
            className={classes.step}
            aria-current={now === 0 ? 'step' : undefined}
            onClick={() => onTravel(0)}
          >
            <span className={classes.words}>{t('bench.theEmptyPacket')}</span>
          </button>
        </li>
      </ol>
    </Drawer>
  );
}
