import { Button } from '@mantine/core';
import { useDocumentTitle } from '@mantine/hooks';
import { ModalsProvider } from '@mantine/modals';
import type { ReactNode } from 'react';
import { Link } from 'wouter';
import { ApiError, type Packet } from '../api/client';
import { usePacket } from '../api/queries';
import { Header } from './Header';
import classes from './WithPacket.module.css';
import { t } from '../words';

interface Props {
  id: string;
  children: (packet: Packet) => ReactNode;
}

/** A view of one packet, once it is known and for as long as it is there. Keeps it up to date. */
export function WithPacket({ id, children }: Props) {
  const { data, error } = usePacket(id);
  useDocumentTitle(data ? `${data.name} · Dorbin` : 'Dorbin');
  const gone = error instanceof ApiError && error.status === 404;
  if (data && !gone) return <ModalsProvider>{children(data)}</ModalsProvider>;
  return (
    <div>
      <Header />
      <div className={classes.notice}>
        {error ? (
          <>
            <p>{gone ? t('shared.thisPacketIsNotHere') : error.message}</p>
            <Button component={Link} href="/">
              {t('shared.allPackets')}
            </Button>
          </>
        ) : (
          <p className="soft">{t('shared.openingThePacket')}</p>
        )}
      </div>
    </div>
  );
}
