import { Alert, Button, Group } from '@mantine/core';
import { useLocation } from 'wouter';
import type { FileLook as Look, FolderFile } from '../api/client';
import { useLook, useOpenFile } from '../api/filingQueries';
import { usePackets } from '../api/queries';
import { count, formatBytes, formatSize } from '../shared/format';
import { t } from '../words';
import classes from './FileLook.module.css';

interface Props {
  folder: string;
  /** Of the file in the folder. */
  path?: string;
  file?: FolderFile;
}

/** The first page of a PDF, and what can be done with it. */
export function FileLook({ folder, path, file }: Props) {
  return (
    <section className={classes.look} aria-live="polite">
      {file && path !== undefined ? (
        <Chosen folder={folder} path={path} file={file} />
      ) : (
        <p className={`soft ${classes.none}`}>{t('filing.chooseOne')}</p>
      )}
    </section>
  );
}

function Chosen({ folder, path, file }: Required<Props>) {
  const { data: look, error } = useLook(folder, path, file.modified);
  return (
    <>
      <h3 className={classes.name}>{file.name}</h3>
      {error && <Alert color="clay">{error.message}</Alert>}
      {!error && <FirstPage look={look} name={file.name} />}
      {look && (
        <>
          <p className="soft small">{factsOf(look, file)}</p>
          <Acts folder={folder} path={path} file={file} />
        </>
      )}
    </>
  );
}

function FirstPage({ look, name }: { look?: Look; name: string }) {
  if (!look) return <p className={`soft ${classes.none}`}>{t('filing.looking', { name })}</p>;
  if (!look.picture) return <p className={classes.none}>{t('filing.locked')}</p>;
  return (
    <div className={classes.desk}>
      <img
        className={classes.page}
        src={`data:image/jpeg;base64,${look.picture}`}
        alt={t('filing.firstPage', { name })}
      />
    </div>
  );
}

function factsOf(look: Look, { bytes }: FolderFile): string {
  const pages = look.pages > 0 && [count(look.pages, 'page'), formatSize(look.width, look.height)];
  return [...(pages || []), formatBytes(bytes)].join(' · ');
}

/** Opens the file, or goes to the packet that was made of it. */
function Acts({ folder, path, file }: Required<Props>) {
  const [, go] = useLocation();
  const open = useOpenFile();
  const { data: cards } = usePackets();
  const packet = cards?.find(({ id }) => id === file.packet);
  const openAt = (place: string) =>
    open.mutate({ folder, file: path }, { onSuccess: (opened) => go(`/packets/${opened.packet}${place}`) });
  return (
    <>
      <p className="small">{packet ? t('filing.openedAs', { name: packet.name }) : t('filing.openHint')}</p>
      {open.error && <Alert color="clay">{open.error.message}</Alert>}
      <Group gap={8} justify="flex-end">
        {packet && (
          <Button variant="filled" onClick={() => go(`/packets/${packet.id}`)}>
            {t('filing.goToPacket')}
          </Button>
        )}
        <Button
          disabled={open.isPending}
          onClick={() => (packet ? go(`/packets/${packet.id}/scan`) : openAt('/scan'))}
        >
          {t('filing.scanInto')}
        </Button>
        <Button variant={packet ? 'default' : 'filled'} loading={open.isPending} onClick={() => openAt('')}>
          {packet ? t('filing.openAnew') : t('filing.open')}
        </Button>
      </Group>
    </>
  );
}
