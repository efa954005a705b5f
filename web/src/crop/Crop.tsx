import type { Packet } from '../api/client';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { CleanEditor } from './CleanEditor';
import { CropEditor } from './CropEditor';
import classes from './CropView.module.css';
import { PaperEditor } from './PaperEditor';
import { StraightenEditor } from './StraightenEditor';
import { useChosenPages } from './useChosenPages';
import { useContents } from './useContents';
import { useMode } from './useMode';
import { t } from '../words';

const editors = { crop: CropEditor, straighten: StraightenEditor, paper: PaperEditor, clean: CleanEditor };

/** The chosen pages, and what is done to them. */
export function Crop({ packet }: { packet: Packet }) {
  const chosen = useChosenPages(packet);
  const { data: contents, isFetching } = useContents(
    packet,
    chosen.pages.map((page) => page.id),
  );
  const [mode] = useMode();
  const base = contents?.find((content) => content.page === chosen.pages[0]?.id) ?? contents?.[0];
  if (!base) return <Waiting packet={packet} pages={chosen.pages.length} />;
  const Editor = editors[mode];
  return (
    <Editor
      key={`${mode} ${base.width} ${base.height}`}
      packet={packet}
      chosen={chosen}
      contents={contents ?? []}
      base={base}
      waiting={isFetching}
    />
  );
}

function Waiting({ packet, pages }: { packet: Packet; pages: number }) {
  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        <span className="soft">{pages > 0 ? t('crop.readingThePages') : t('crop.noPages')}</span>
      </Header>
      <p className={classes.nothing}>
        {pages > 0 ? t('crop.readingWhatIsOnThe') : t('crop.thereAreNoPagesTo')}
      </p>
    </div>
  );
}
