import { Anchor, Kbd, Modal, Table } from '@mantine/core';
import { Link } from 'wouter';
import { keyNames } from './acts/keys';
import { ACTS } from './acts/registry';
import classes from './ShortcutsModal.module.css';
import { t } from '../words';

type Shortcut = [keys: readonly string[], act: string];

const modifier = keyNames('mod');

const onWall: Shortcut[] = [
  [[t('bench.arrows')], t('bench.selectAnotherPage')],
  [[t('bench.shift'), t('bench.arrows')], t('bench.selectARunOfPages')],
  [[...modifier, t('bench.arrows')], t('bench.goToAnotherPageAnd')],
  [[t('bench.space')], t('bench.addThePageToThe')],
  [['M'], t('bench.pickThePagesUpArrows')],
  [[...modifier, t('bench.wheel')], t('bench.largerOrSmallerPages')],
  [[...modifier, 'K'], t('bench.findAnyActByIts')],
];

const inReadThrough: Shortcut[] = [
  [['→'], t('bench.checkedOnToTheNext')],
  [['←'], t('bench.back')],
  [['U'], t('bench.theNextPageNotChecked')],
  [['F'], t('bench.theNextPageWithA')],
  [['N'], t('bench.noteOnThePage')],
  [[...modifier, 'F'], t('bench.findOnThePages')],
  [['C'], t('bench.cropThePage')],
  [['2'], t('bench.onePageOrTwo')],
];

const ofActs = ACTS.flatMap(({ keys, name }): Shortcut[] => (keys?.[0] ? [[keyNames(keys[0]), name]] : []));

interface Props {
  opened: boolean;
  onClose: () => void;
}

/** The list of all keys. */
export function ShortcutsModal({ opened, onClose }: Props) {
  return (
    <Modal opened={opened} onClose={onClose} title={t('bench.keyboard')} size={520}>
      <KeyTable shortcuts={onWall} />
      <h3 className={classes.heading}>{t('bench.acts')}</h3>
      <KeyTable shortcuts={ofActs} />
      <h3 className={classes.heading}>{t('bench.inTheReadThrough')}</h3>
      <KeyTable shortcuts={inReadThrough} />
      <p>
        <Anchor component={Link} href="/guide" c="var(--spruce-text)" fw={600}>
          {t('bench.openTheGuide')}
        </Anchor>
      </p>
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
