import { LineSettings } from './LineSettings';
import { NumberSettings } from './NumberSettings';
import { OpeningSettings } from './OpeningSettings';
import { PropertySettings } from './PropertySettings';
import type { Changed, Finish, Section } from './sections';

interface Props {
  section: Section;
  finish: Finish;
  /** How many pages the packet has. */
  pages: number;
  onChange: (changed: Changed) => void;
}

/** The settings of what is chosen. A change switches it on. */
export function Settings({ section, finish, pages, onChange }: Props) {
  switch (section) {
    case 'numbers':
      return (
        <NumberSettings
          numbers={finish.numbers}
          pages={pages}
          onChange={(part) => onChange({ numbers: { ...finish.numbers, on: true, ...part } })}
        />
      );
    case 'header':
    case 'footer':
      return (
        <LineSettings
          key={section}
          line={finish[section]}
          onChange={(part) => onChange({ [section]: { ...finish[section], on: true, ...part } })}
        />
      );
    case 'properties':
      return (
        <PropertySettings
          properties={finish.properties}
          onChange={(part) => onChange({ properties: { ...finish.properties, on: true, ...part } })}
        />
      );
    case 'opening':
      return (
        <OpeningSettings
          opening={finish.opening}
          pages={pages}
          onChange={(part) => onChange({ opening: { ...finish.opening, on: true, ...part } })}
        />
      );
  }
}
