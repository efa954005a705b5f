import { Button, Menu, TextInput } from '@mantine/core';
import { IconArrowLeft, IconDots } from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type CSSProperties, type MouseEvent } from 'react';
import { sourcePictureUrl, type Packet, type Source, type SourcePage } from '../api/client';
import { usePlaceSource, useSourcePages } from '../api/queries';
import { allPages } from '../packet/apply';
import { count, originColour } from '../shared/format';
import { Picture } from '../shared/Picture';
import classes from './OpenedSource.module.css';
import { carryPages } from './useOutsideDrag';
import { t } from '../words';

interface Props {
  packet: Packet;
  source: Source;
  onClose: () => void;
  onPlace: (source: Source, pages: number[]) => void;
  onRemove: (source: Source) => void;
}

const COLUMNS = 2;
const WIDTH = 88;
const ROW = 150;

/** A source's own pages, each marked placed or not. They are dragged from here to the wall. */
export function OpenedSource({ packet, source, onClose, onPlace, onRemove }: Props) {
  const pages = useSourcePages(source.id);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [anchor, setAnchor] = useState(1);
  const placed = useMemo(
    () => new Set(allPages(packet).flatMap((page) => (page.source === source.id ? [page.sourcePage] : []))),
    [packet, source.id],
  );
  const choose = (number: number, event: MouseEvent) => {
    const next = new Set(event.ctrlKey || event.metaKey ? chosen : []);
    if (event.shiftKey) {
      for (let n = Math.min(anchor, number); n <= Math.max(anchor, number); n++) next.add(n);
    } else {
      if (chosen.has(number) && next.size > 0) next.delete(number);
      else next.add(number);
      setAnchor(number);
    }
    setChosen(next);
  };
  const inOrder = [...chosen].sort((a, b) => a - b);
  return (
    <>
      <div className={classes.head}>
        <Button leftSection={<IconArrowLeft size={15} />} onClick={onClose}>
          {t('intake.intake')}
        </Button>
        <Menu position="bottom-end" withinPortal>
          <Menu.Target>
            <Button aria-label={t('intake.moreAbout', { name: source.name })} px={8}>
              <IconDots size={16} />
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => onRemove(source)}>{t('intake.removeThisFileFromThe')}</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
      <h2 className={classes.title} title={source.name} style={{ borderColor: originColour(source.ordinal) }}>
        {source.name}
      </h2>
      <SourceGrid
        source={source}
        pages={pages.data ?? []}
        placed={placed}
        chosen={chosen}
        onChoose={choose}
      />
      {chosen.size > 0 ? (
        <Button variant="filled" onClick={() => onPlace(source, inOrder)}>
          {t('intake.addAtTheEnd', { pages: count(chosen.size, 'page') })}
        </Button>
      ) : (
        <RangeField packet={packet.id} source={source} />
      )}
    </>
  );
}

interface GridProps {
  source: Source;
  pages: SourcePage[];
  placed: ReadonlySet<number>;
  chosen: ReadonlySet<number>;
  onChoose: (number: number, event: MouseEvent) => void;
}

function SourceGrid({ source, pages, placed, chosen, onChoose }: GridProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtualizer = useVirtualizer({
    count: Math.ceil(pages.length / COLUMNS),
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 2,
  });
  return (
    <div
      ref={scroller}
      className={classes.scroller}
      role="listbox"
      aria-label={t('intake.pagesOf', { name: source.name })}
      aria-multiselectable
    >
      <div className={classes.grid} style={{ height: virtualizer.getTotalSize() }}>
        {virtualizer
          .getVirtualItems()
          .flatMap((row) =>
            pages
              .slice(row.index * COLUMNS, (row.index + 1) * COLUMNS)
              .map((page, column) => (
                <SourcePageCard
                  key={page.number}
                  source={source}
                  page={page}
                  placed={placed.has(page.number)}
                  chosen={chosen}
                  onChoose={onChoose}
                  style={{ top: row.start, left: column * (WIDTH + 12) }}
                />
              )),
          )}
      </div>
    </div>
  );
}

interface CardProps {
  source: Source;
  page: SourcePage;
  placed: boolean;
  chosen: ReadonlySet<number>;
  onChoose: (number: number, event: MouseEvent) => void;
  style: CSSProperties;
}

function SourcePageCard({ source, page, placed, chosen, onChoose, style }: CardProps) {
  const selected = chosen.has(page.number);
  const scale = Math.min(WIDTH / page.width, (ROW - 34) / page.height);
  return (
    <div
      role="option"
      tabIndex={0}
      aria-selected={selected}
      className={classes.card}
      data-selected={selected || undefined}
      style={{ ...style, width: WIDTH }}
      draggable
      onDragStart={(event) => {
        const pages = selected ? [...chosen].sort((a, b) => a - b) : [page.number];
        carryPages(event.dataTransfer, { source: source.id, pages });
      }}
      onClick={(event) => onChoose(page.number, event)}
      onKeyDown={(event) => {
        if (event.key === ' ' || event.key === 'Enter') event.currentTarget.click();
      }}
    >
      <div className={classes.sheet} style={{ borderLeftColor: originColour(source.ordinal) }}>
        <Picture
          url={sourcePictureUrl(source.id, page.number, 240)}
          alt=""
          width={Math.round(page.width * scale)}
          height={Math.round(page.height * scale)}
        />
      </div>
      <div className={classes.caption}>
        <b>{page.number}</b>{' '}
        <span className="soft">{placed ? t('intake.placed') : t('intake.notPlaced')}</span>
      </div>
    </div>
  );
}

/** Adds pages by their numbers. */
function RangeField({ packet, source }: { packet: string; source: Source }) {
  const [pages, setPages] = useState('');
  const place = usePlaceSource(packet);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        place.mutate({ source: source.id, pages }, { onSuccess: () => setPages('') });
      }}
    >
      <TextInput
        aria-label={t('intake.addPagesByNumber')}
        placeholder={t('intake.rangeExample')}
        value={pages}
        error={place.error?.message}
        onChange={(event) => {
          setPages(event.currentTarget.value);
          place.reset();
        }}
        rightSectionWidth={48}
        rightSection={
          <button type="submit" className={classes.add} disabled={pages.trim() === ''}>
            {t('intake.add')}
          </button>
        }
      />
    </form>
  );
}
