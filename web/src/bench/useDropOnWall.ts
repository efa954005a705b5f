import { useCallback, useRef, useState } from 'react';
import type { Packet } from '../api/client';
import { useOutsideDrag, type SourcePages } from '../intake/useOutsideDrag';
import { landingPlace, type Place } from '../packet/place';
import { titleOf } from '../shared/format';
import { t } from '../words';
import type { ActContext } from './acts/act';
import type { Landing } from './wallLayout';

/** Files, and pages of the intake, that are dropped: on the wall they go where they are let go, else to the end. */
export function useDropOnWall(
  packet: Packet,
  bench: ActContext,
  addFiles: (files: File[], place: Place) => void,
) {
  const landing = useRef<Landing>(undefined);
  const [overWall, setOverWall] = useState(false);
  const onOutside = useCallback((at: Landing | undefined) => {
    landing.current = at;
    setOverWall(at !== undefined);
  }, []);
  const onPages = ({ source, pages }: SourcePages) => {
    const title = titleOf(packet.sources.find((s) => s.id === source)?.name ?? '');
    const { part, index } = landing.current ?? {};
    bench.act([{ do: 'place', source, take: pages, ...(part ? { part, at: index } : { title }) }]);
  };
  const drag = useOutsideDrag({
    onFiles: (files) => addFiles(files, landing.current ? landingPlace(packet, landing.current) : 'end'),
    onPages,
  });
  return { drag, overWall, onOutside };
}

export function dropWords(kind: 'files' | 'pages', overWall: boolean): string {
  if (overWall) return kind === 'files' ? t('bench.dropToInsertFilesHere') : t('bench.dropToInsertPagesHere');
  return kind === 'files' ? t('bench.dropToAddEachFile') : t('bench.dropToAddAPart');
}
