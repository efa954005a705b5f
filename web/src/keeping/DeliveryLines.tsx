import { ActionIcon } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { useDeliveryLines, useForgetLine } from '../api/keepingQueries';
import { whereTo } from '../handin/deliveryWords';
import { count, dayInWords, formatBytes } from '../shared/format';
import { say, t } from '../words';
import classes from './DeliveryLines.module.css';

/** What was handed in of packets that are deleted: a line each, without content. */
export function DeliveryLines() {
  const { data: lines } = useDeliveryLines();
  const forget = useForgetLine();
  if (!lines?.length) return null;
  return (
    <section className={classes.lines}>
      <h2 className={classes.heading}>{t('keeping.handedInBefore')}</h2>
      <ul className={classes.list}>
        {lines.map(({ id, packet, receiver, name, pages, bytes, answer, ended, delivery }) => (
          <li key={id} className={classes.line}>
            <b>{packet}</b>
            <span>{receiver ?? whereTo(delivery)}</span>
            <span className="soft">{dayInWords(ended)}</span>
            <span className={`soft ${classes.file}`} title={name}>
              {`${name} · ${count(pages, 'page')} · ${formatBytes(bytes)}`}
            </span>
            <span className="soft">{say(answer)}</span>
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label={t('keeping.forgetLine', { name: packet })}
              onClick={() => forget.mutate(id)}
            >
              <IconX size={16} />
            </ActionIcon>
          </li>
        ))}
      </ul>
    </section>
  );
}
