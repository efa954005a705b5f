import { Table } from '@mantine/core';
import type { Packet } from '../api/client';
import { formatBytes } from '../shared/format';
import classes from './PartsTable.module.css';
import { runs } from './encodingWords';
import { t } from '../words';

interface Props {
  packet: Packet;
  /** The pages that go into it, by their ids; all when it is missing. */
  only?: readonly string[];
}

/** What goes into the file, part by part. */
export function PartsTable({ packet, only }: Props) {
  const wanted = only && new Set(only);
  const parts = packet.parts
    .map((part) => ({ ...part, pages: part.pages.filter(({ id }) => !wanted || wanted.has(id)) }))
    .filter(({ pages }) => pages.length > 0);
  const names = new Map(packet.sources.map((source) => [source.id, source.name]));
  return (
    <Table className={classes.table}>
      <Table.Thead>
        <Table.Tr>
          <Table.Th w={90}>{t('export.pages')}</Table.Th>
          <Table.Th>{t('export.partAndBookmark')}</Table.Th>
          <Table.Th>{t('export.from')}</Table.Th>
          <Table.Th w={90} ta="right">
            {t('export.fileSize')}
          </Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {parts.map((part) => {
          const from = [...new Set(part.pages.flatMap((page) => names.get(page.source) ?? []))];
          return (
            <Table.Tr key={part.id}>
              <Table.Td>{runs(part.pages.map(({ number }) => number))}</Table.Td>
              <Table.Td className={classes.words}>{part.title}</Table.Td>
              <Table.Td className={classes.words}>{from.join(', ')}</Table.Td>
              <Table.Td ta="right">
                {formatBytes(part.pages.reduce((sum, page) => sum + page.bytes, 0))}
              </Table.Td>
            </Table.Tr>
          );
        })}
      </Table.Tbody>
    </Table>
  );
}
