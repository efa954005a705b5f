import { Kbd, Modal, Table } from '@mantine/core';
import { useDisclosure, useHotkeys } from '@mantine/hooks';

const mod = /Mac|iP(hone|ad)/.test(navigator.userAgent) ? '⌘' : 'Ctrl';

type Shortcut = [keys: string[], act: string];

const onBench: Shortcut[] = [
  [['Arrows'], 'Go to another page'],
  [['Shift', 'Arrows'], 'Select a run of pages'],
  [['Space'], 'Select or deselect the page; held, look closely'],
  [[mod, 'A'], 'Select all pages'],
  [['Escape'], 'Select nothing'],
  [['M'], 'Pick the pages up; arrows carry, Enter drops'],
  [['Alt', 'Arrows'], 'Move the pages towards the start or the end'],
  [['Enter'], 'Read through, from this page on'],
  [['['], 'Turn left'],
  [[']'], 'Turn right'],
  [['C'], 'Crop'],
  [['Delete'], 'Set aside'],
  [[mod, 'Wheel'], 'Larger or smaller pages'],
  [[mod, 'K'], 'Find any act by its name'],
  [[mod, 'Z'], 'Undo'],
  [['Shift', mod, 'Z'], 'Redo'],
  [['?'], 'Show this list'],
];

const inReadThrough: Shortcut[] = [
  [['→'], 'Looked at, on to the next'],
  [['←'], 'Back'],
  [['U'], 'The next page not looked at'],
  [['F'], 'The next page with a finding'],
  [['N'], 'Note on the page'],
  [['C'], 'Crop the page'],
  [['2'], 'One page or two'],
];

/** The list of all keys, opened with "?". */
export function ShortcutsModal() {
  const [opened, { open, close }] = useDisclosure(false);
  useHotkeys([
    ['shift+?', open],
    ['?', open],
  ]);
  return (
    <Modal opened={opened} onClose={close} title="Keyboard" size={520}>
      <KeyTable shortcuts={onBench} />
      <h3>In the read-through</h3>
      <KeyTable shortcuts={inReadThrough} />
    </Modal>
  );
}

function KeyTable({ shortcuts }: { shortcuts: Shortcut[] }) {
  return (
    <Table>
      <Table.Tbody>
        {shortcuts.map(([keys, act]) => (
          <Table.Tr key={act}>
            <Table.Td w={150}>
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
  );
}
