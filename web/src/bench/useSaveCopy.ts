import { useCallback } from 'react';
import { api, data, exportFileUrl, type Export } from '../api/client';
import { download } from '../shared/download';
import { count } from '../shared/format';
import { notify, notifyProblem } from '../shared/notify';
import { say, t } from '../words';

const LOOK_AGAIN_MS = 150;

/** Makes a PDF of pages and hands it to the browser, without leaving the bench. */
export function useSaveCopy(packet: string) {
  return useCallback(
    (pages: string[]) => {
      if (pages.length === 0) return;
      void saveCopy(packet, pages).catch((error: Error) => notifyProblem(error.message));
    },
    [packet],
  );
}

async function saveCopy(packet: string, pages: string[]) {
  notify(t('bench.makingAPdfOf', { pages: count(pages.length, 'page') }), 'save-copy');
  const started = await data(
    api.POST('/api/packets/{id}/exports', { params: { path: { id: packet } }, body: { pages } }),
  );
  const made = await finished(started);
  if (made.state !== 'done') throw new Error(say(made.problem) || t('bench.thePdfWasNotMade'));
  download(exportFileUrl(made.id), made.name);
  notify(t('bench.savedACopyOfAs', { pages: count(pages.length, 'page'), name: made.name }), 'save-copy');
}

async function finished(made: Export): Promise<Export> {
  while (made.state === 'waiting' || made.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS));
    made = await data(api.GET('/api/exports/{export}', { params: { path: { export: made.id } } }));
  }
  return made;
}
