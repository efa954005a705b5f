import { Switch } from '@mantine/core';
import type { Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { t } from '../words';
import { choiceOf } from './AnnotationSettings';
import classes from './SectionList.module.css';
import { SECTION_ORDER, SECTIONS, switched, type Changed, type Section } from './sections';

/** What can be chosen in the list: a section, or the form fields and comments of all pages. */
export type Choice = Section | 'annotations';

interface Props {
  packet: Packet;
  chosen: Choice;
  onChoose: (chosen: Choice) => void;
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
      <div className={classes.row} data-chosen={chosen === 'annotations' || undefined}>
        <button
          type="button"
          className={classes.name}
          aria-current={chosen === 'annotations' || undefined}
          onClick={() => onChoose('annotations')}
        >
          <b>{t('annotations.label')}</b>
          <span className="soft">{choiceOf(allPages(packet))?.name ?? t('finish.pagesDiffer')}</span>
        </button>
      </div>
    </nav>
  );
}
