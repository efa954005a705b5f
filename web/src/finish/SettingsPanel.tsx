import type { Command, Packet, Page } from '../api/client';
import { useFinished } from '../api/queries';
import { t } from '../words';
import { AnnotationSettings } from './AnnotationSettings';
import { left } from './bookmarks';
import classes from './FinishView.module.css';
import { Misfits } from './Misfits';
import type { Choice } from './SectionList';
import { SECTIONS, type Changed, type Section } from './sections';
import { Settings } from './Settings';

interface Props {
  packet: Packet;
  pages: readonly Page[];
  chosen: Choice;
  /** The page that is shown. */
  shown: Page | undefined;
  onShow: (page: string) => void;
  onAct: (...commands: Command[]) => void;
}

/** The settings of what is chosen in the list. */
export function SettingsPanel({ packet, pages, chosen, shown, onShow, onAct }: Props) {
  const name = chosen === 'annotations' ? t('annotations.label') : SECTIONS[chosen].name;
  return (
    <aside className={classes.panel} aria-label={name}>
      <h2>{name}</h2>
      {chosen === 'annotations' ? (
        <AnnotationSettings
          pages={pages}
          onChange={(annotations) => onAct({ do: 'annotate', range: 'all', annotations })}
        />
      ) : (
        <OfSection
          packet={packet}
          pages={pages}
          chosen={chosen}
          shown={shown}
          onShow={onShow}
          onAct={onAct}
        />
      )}
      <p className={classes.foot}>{t('finish.drawnBesideThePage')}</p>
    </aside>
  );
}

/** The settings of a section, with what of it does not fit on its page. */
function OfSection({ packet, pages, chosen, shown, onShow, onAct }: Props & { chosen: Section }) {
  const finished = useFinished(packet);
  const { numbers } = packet.finish;
  const { marks } = SECTIONS[chosen];
  const change = (changed: Changed) => onAct({ do: 'finish', ...changed });
  const changeNumbers = (part: Partial<typeof numbers>) => change({ numbers: { ...numbers, ...part } });
  const useAsCover = () => {
    const first = pages.find(({ made, id }) => !made && id !== shown?.id);
    if (!shown) return;
    const cover: Command = { do: 'finish', cover: { ...packet.finish.cover, on: true, own: shown.id } };
    if (first && first.number < shown.number)
      onAct(cover, { do: 'move', pages: [shown.id], before: first.id });
    else onAct(cover);
  };
  const idOf = (number: number) => pages[number - 1]?.id ?? '';
  return (
    <>
      <Settings
        section={chosen}
        packet={packet}
        pages={pages.length}
        printed={finished?.printed}
        shown={shown}
        onChange={change}
        onUseAsCover={useAsCover}
        onAct={onAct}
      />
      <Misfits
        misfits={finished?.misfits.filter(({ kind }) => marks?.includes(kind)) ?? []}
        numbers={numbers}
        freePlace={finished?.freePlace}
        onShow={(number) => onShow(idOf(number))}
        onMove={changeNumbers}
        onElsewhere={(number) => changeNumbers({ elsewhere: left(numbers.elsewhere, idOf(number), true) })}
      />
    </>
  );
}
