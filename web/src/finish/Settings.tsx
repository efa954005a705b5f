import type { Command, Packet, Page } from '../api/client';
import { BookmarkSettings } from './BookmarkSettings';
import { ContentsSettings } from './ContentsSettings';
import { CoverSettings } from './CoverSettings';
import { LetterheadSettings } from './LetterheadSettings';
import { LineSettings } from './LineSettings';
import { NumberSettings } from './NumberSettings';
import { OpeningSettings } from './OpeningSettings';
import { PropertySettings } from './PropertySettings';
import { ProtectionSettings } from './ProtectionSettings';
import type { Changed, Finish, Section } from './sections';
import { SheetSettings } from './SheetSettings';
import { WatermarkSettings } from './WatermarkSettings';

interface Props {
  section: Section;
  packet: Packet;
  /** How many pages the packet has. */
  pages: number;
  /** How many of them have a number in their text; undefined while it is not known. */
  printed: number | undefined;
  /** The page that is shown. */
  shown: Page | undefined;
  onChange: (changed: Changed) => void;
  /** Has the page that is shown be the cover. */
  onUseAsCover: () => void;
  onAct: (command: Command) => void;
}

/** The settings of what is chosen. A change switches it on. */
export function Settings({ section, packet, pages, printed, shown, onChange, onUseAsCover, onAct }: Props) {
  const { finish } = packet;
  const changes =
    <S extends Section>(name: S) =>
    (part: Partial<Finish[S]>) =>
      onChange({ [name]: { ...finish[name], on: true, ...part } });
  switch (section) {
    case 'cover':
      return (
        <CoverSettings
          cover={finish.cover}
          packet={packet}
          shown={shown}
          onChange={changes('cover')}
          onUseShown={onUseAsCover}
        />
      );
    case 'contents':
      return <ContentsSettings contents={finish.contents} onChange={changes('contents')} />;
    case 'sheets':
      return <SheetSettings sheets={finish.sheets} packet={packet} onChange={changes('sheets')} />;
    case 'numbers':
      return (
        <NumberSettings
          numbers={finish.numbers}
          pages={pages}
          printed={printed}
          onChange={changes('numbers')}
        />
      );
    case 'header':
    case 'footer':
      return <LineSettings key={section} line={finish[section]} onChange={changes(section)} />;
    case 'watermark':
      return (
        <WatermarkSettings watermark={finish.watermark} packet={packet} onChange={changes('watermark')} />
      );
    case 'letterhead':
      return (
        <LetterheadSettings
          letterhead={finish.letterhead}
          packet={packet}
          onChange={changes('letterhead')}
          onAct={onAct}
        />
      );
    case 'bookmarks':
      return (
        <BookmarkSettings bookmarks={finish.bookmarks} packet={packet} onChange={changes('bookmarks')} />
      );
    case 'properties':
      return <PropertySettings properties={finish.properties} onChange={changes('properties')} />;
    case 'opening':
      return <OpeningSettings opening={finish.opening} pages={pages} onChange={changes('opening')} />;
    case 'protection':
      return <ProtectionSettings protection={finish.protection} onChange={changes('protection')} />;
  }
}
