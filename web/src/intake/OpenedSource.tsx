import { Button, Menu, TextInput } from '@mantine/core';
import { IconArrowLeft, IconDots } from '@tabler/icons-react';
import { useMemo, useState } from 'react';
import type { Packet, Source } from '../api/client';
import { usePlaceSource, useSourcePages } from '../api/queries';
import { allPages } from '../packet/apply';
import { count, originColour } from '../shared/format';
import classes from './OpenedSource.module.css';
import { rangeProblem } from './additions';
import { SourceGrid, type Modifiers } from './SourceGrid';
import { t } from '../words';

interface Props {
  packet: Packet;
  source: Source;
  onClose: () => void;
  onPlace: (source: Source, pages: number[]) => void;
  onRemove: (source: Source) => void;
}

/** A source's own pages, each marked placed or not. They are dragged from here to the wall. */
export function OpenedSource({ packet, source, onClose, onPlace, onRemove }: Props) {
  const pages = useSourcePages(source.id);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [anchor, setAnchor] = useState(1);
  const placed = useMemo(
    () => new Set(allPages(packet).flatMap((page) => (page.source === source.id ? [page.sourcePage] : []))),
    [packet, source.id],
  );
  const choose = (number: number, event: Modifiers) => {
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
        error={rangeProblem(pages) ?? place.error?.message}
        onChange={(event) => {
          setPages(event.currentTarget.value);
          place.reset();
        }}
        rightSectionWidth={48}
        rightSection={
          <button
            type="submit"
            className={classes.add}
            disabled={pages.trim() === '' || rangeProblem(pages) !== undefined}
          >
            {t('intake.add')}
          </button>
        }
      />
    </form>
  );
}
