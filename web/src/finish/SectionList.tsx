import { Switch } from '@mantine/core';
import type { Packet } from '../api/client';
import { t } from '../words';
import classes from './SectionList.module.css';
import { SECTION_ORDER, SECTIONS, switched, type Changed, type Section } from './sections';

interface Props {
  packet: Packet;
  chosen: Section;
  onChoose: (section: Section) => void;
  onSwitch: (changed: Changed) => void;
}

/** What can be added, each with a switch and a line that says what it does now. */
export function SectionList({ packet, chosen, onChoose, onSwitch }: Props) {
  return (
    <nav className={classes.list} aria-label={t('finish.addedToTheDocument')}>
      <h2>{t('finish.addedToTheDocument')}</h2>
      {SECTION_ORDER.map((section) => {
        const { name, words } = SECTIONS[section];
        const { on } = packet.finish[section];
        return (
          <div key={section} className={classes.row} data-chosen={section === chosen || undefined}>
            <Switch
              aria-label={name}
              checked={on}
              onChange={(event) => {
                onChoose(section);
                onSwitch(switched(packet.finish, section, event.currentTarget.checked));
              }}
            />
            <button
              type="button"
              className={classes.name}
              aria-current={section === chosen || undefined}
              onClick={() => onChoose(section)}
            >
              <b>{name}</b>
              <span className="soft">{on ? words(packet.finish) : t('finish.off')}</span>
            </button>
          </div>
        );
      })}
    </nav>
  );
}
