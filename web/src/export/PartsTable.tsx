import { Table } from '@mantine/core';
import type { Packet } from '../api/client';
import { formatBytes } from '../shared/format';
import classes from './PartsTable.module.css';

/** What goes into the file, part by part. */
export function PartsTable({ packet }: { packet: Packet }) {
  const names = new Map(packet.sources.map((source) => [source.id, source.name]));
  return (
    <Table className={classes.table}>
      <Table.Thead>
        <Table.Tr>
          <Table.Th w={90}>Pages</Table.Th>
          <Table.Th>Part and bookmark</Table.Th>
          <Table.Th>From</Table.Th>
          <Table.Th w={90} ta="right">
            Weight
          </Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {packet.parts.map((part) => {
          const first = part.pages[0]?.number ?? 0;
          const last = part.pages.at(-1)?.number ?? 0;
          const from = [...new Set(part.pages.map((page) => names.get(page.source) ?? ''))];
          return (
            <Table.Tr key={part.id}>
              <Table.Td>{first === last ? first : `${first}–${last}`}</Table.Td>
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
