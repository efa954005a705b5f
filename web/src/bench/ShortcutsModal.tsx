import { Kbd, Modal, Table } from '@mantine/core';
import { keyNames } from './acts/keys';
import { ACTS } from './acts/registry';

type Shortcut = [keys: readonly string[], act: string];

const modifier = keyNames('mod');

const onWall: Shortcut[] = [
  [['Arrows'], 'Select another page'],
  [['Shift', 'Arrows'], 'Select a run of pages'],
  [[...modifier, 'Arrows'], 'Go to another page, and leave the selection'],
  [['Space'], 'Add the page to the selection or take it out; held, look closely'],
  [['M'], 'Pick the pages up; arrows carry, Enter drops'],
  [[...modifier, 'Wheel'], 'Larger or smaller pages'],
  [[...modifier, 'K'], 'Find any act by its name'],
];

const inReadThrough: Shortcut[] = [
  [['→'], 'Checked, on to the next'],
  [['←'], 'Back'],
  [['U'], 'The next page not checked'],
  [['F'], 'The next page with a finding'],
  [['N'], 'Note on the page'],
  [['C'], 'Crop the page'],
  [['2'], 'One page or two'],
];

const ofActs = ACTS.flatMap(({ keys, name }): Shortcut[] => (keys?.[0] ? [[keyNames(keys[0]), name]] : []));

interface Props {
  opened: boolean;
  onClose: () => void;
}

/** The list of all keys. */
export function ShortcutsModal({ opened, onClose }: Props) {
  return (
    <Modal opened={opened} onClose={onClose} title="Keyboard" size={520}>
      <KeyTable shortcuts={onWall} />
      <h3>Acts</h3>
      <KeyTable shortcuts={ofActs} />
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
            <Table.Td w={170}>
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
