import { useEffect, useRef, useState } from 'react';
import type { Export } from '../api/client';
import { useSaveBack } from '../api/filingQueries';
import { useExports, useStartExport } from '../api/queries';
import { say, t } from '../words';

interface Saving {
  /** The document that is being written. */
  writing?: Export;
  isBusy: boolean;
  problem?: string;
  /** Saves in the file's place, or beside it. */
  save: (beside: boolean) => void;
}

/** Saves a packet back: writes the document first, unless one is finished. */
export function useSaving(
  packet: string,
  finished: Export | undefined,
  onSaved: (path: string) => void,
): Saving {
  const start = useStartExport(packet);
  const saveBack = useSaveBack(packet);
  const { data: exports } = useExports(packet);
  const [awaited, setAwaited] = useState<{ id: string; beside: boolean }>();
  const made = finished ?? exports?.find(({ id }) => id === awaited?.id);
  const put = (id: string, beside: boolean) =>
    saveBack.mutate({ made: id, beside }, { onSuccess: (origin) => origin && onSaved(origin.path) });
  const latest = useRef(put);
  useEffect(() => {
    latest.current = put;
  });
  const isMade = made?.state === 'done';
  useEffect(() => {
    if (awaited && isMade) latest.current(awaited.id, awaited.beside);
  }, [awaited, isMade]);
  const save = (beside: boolean) => {
    if (made && isMade) put(made.id, beside);
    else start.mutate({}, { onSuccess: ({ id }) => setAwaited({ id, beside }) });
  };
  const isWriting = made?.state === 'waiting' || made?.state === 'running';
  return {
    writing: isWriting ? made : undefined,
    isBusy: start.isPending || saveBack.isPending || isWriting,
    problem:
      start.error?.message ??
      saveBack.error?.message ??
      (made?.state === 'failed' || made?.state === 'cancelled'
        ? say(made.problem) || t('filing.notMade')
        : undefined),
    save,
  };
}
