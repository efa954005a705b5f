import { Kbd, Modal, Table } from '@mantine/core';
import { useDisclosure, useHotkeys } from '@mantine/hooks';

const mod = /Mac|iP(hone|ad)/.test(navigator.userAgent) ? '⌘' : 'Ctrl';

const shortcuts: [keys: string[], act: string][] = [
  [['Arrows'], 'Go to another page'],
  [['Shift', 'Arrows'], 'Select a run of pages'],
  [['Space'], 'Select or deselect the page'],
  [[mod, 'A'], 'Select all pages'],
  [['Escape'], 'Select nothing'],
  [['Alt', 'Arrows'], 'Move the pages towards the start or the end'],
  [['Enter'], 'Read through, from this page on'],
  [['['], 'Turn left'],
  [[']'], 'Turn right'],
  [['Delete'], 'Set aside'],
  [[mod, 'Z'], 'Undo'],
  [['Shift', mod, 'Z'], 'Redo'],
  [['?'], 'Show this list'],
];

/** The list of all keys, opened with "?". */
export function ShortcutsModal() {
  const [opened, { open, close }] = useDisclosure(false);
  useHotkeys([
    ['shift+?', open],
    ['?', open],
  ]);
  return (
    <Modal opened={opened} onClose={close} title="Keyboard">
      <Table>
        <Table.Tbody>
          {shortcuts.map(([keys, act]) => (
            <Table.Tr key={act}>
              <Table.Td w={190}>
                {keys.map((key, i) => (
                  <span key={key}>
                    {i > 0 && ' + '}
                    <Kbd>{key}</Kbd>
                  </span>
                ))}
              </Table.Td>
              <Table.Td>{act}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </Modal>
  );
}
