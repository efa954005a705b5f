import { Table } from '@mantine/core';
import type { ExportOrder, Packet } from '../api/client';
import { useFilesPreview } from '../api/queries';
import { aboutSize, count } from '../shared/format';
import { t } from '../words';
import { runFrom } from './encodingWords';
import classes from './PartsTable.module.css';

interface Props {
  packet: Packet;
  order: ExportOrder;
}

/** The files that would be made of a packet, where there are several. */
export function FilesPreview({ packet, order }: Props) {
  const { data: files, error } = useFilesPreview(packet, order);
  if (error) return <p className="soft">{error.message}</p>;
  if (!files?.length) return null;
  const limit = order.make === 'bySize' ? order.limit : undefined;
  return (
    <section aria-label={t('export.filesThatWillBeMade')}>
      <h2 className={classes.heading}>
        {t('export.filesThatWillBeMade')} · {count(files.length, 'file')}
      </h2>
      <Table className={classes.table}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th w={90}>{t('export.pages')}</Table.Th>
            <Table.Th>{t('export.file')}</Table.Th>
            <Table.Th w={160} ta="right">
              {t('export.fileSize')}
            </Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {files.map(({ name, first, pages, bytes, uncertainty }) => (
            <Table.Tr key={name}>
              <Table.Td>{runFrom(first, pages)}</Table.Td>
              <Table.Td className={classes.words}>{name}</Table.Td>
              <Table.Td ta="right" className={limit && bytes > limit ? classes.tooLarge : undefined}>
                {aboutSize(bytes, true, uncertainty)}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </section>
  );
}
