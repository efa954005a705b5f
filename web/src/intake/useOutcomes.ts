import { useEffect, useEffectEvent, useRef } from 'react';
import type { Packet } from '../api/client';
import { listed } from '../shared/format';
import { notify, notifyProblem } from '../shared/notify';
import { say, t } from '../words';
import { takeLost } from './lostUploads';
import { isUploading, onUploadFinished } from './uploads';

/** Tells the user how the files that they added came in, in whichever view they are by then. */
export function useOutcomeMessages() {
  useEffect(
    () =>
      onUploadFinished((outcome) => {
        if (outcome.result === 'refused') notifyProblem(say(outcome.sentence));
        if (outcome.result === 'duplicate') notify(say(outcome.sentence));
      }),
    [],
  );
}

/** When the last of new photographs has come in, and no more are being taken, offers to go through them. */
export function useNewPhotographs(packet: string, takingMore: boolean, onNew: (pages: string[]) => void) {
  const fresh = useRef<string[]>([]);
  useEffect(() => {
    const offer = () => {
      if (takingMore || isUploading(packet) || fresh.current.length === 0) return;
      onNew(fresh.current);
      fresh.current = [];
    };
    offer();
    return onUploadFinished((outcome, upload) => {
      if (upload.packet !== packet) return;
      if (outcome.arePhotographs) fresh.current.push(...(outcome.pages ?? []));
      offer();
    });
  }, [packet, takingMore, onNew]);
}

/** Calls back for every file added to a packet that turns out to be protected with a password. */
export function useLockedFiles(packet: string, onLocked: (source: string, name: string) => void) {
  useEffect(
    () =>
      onUploadFinished((outcome, upload) => {
        if (upload.packet === packet && outcome.result === 'locked' && outcome.source) {
          onLocked(outcome.source, outcome.name);
        }
      }),
    [packet, onLocked],
  );
}

/** Names the files that were on their way when the page was reloaded, and did not come in. */
export function useLostUploads(packet: Packet) {
  const tell = useEffectEvent(() => {
    const here = new Set(packet.sources.map(({ name }) => name));
    const names = takeLost(packet.id).filter((name) => !here.has(name));
    if (names.length > 0) {
      notifyProblem(t('intake.lostOnTheWay', { names: listed(names), count: names.length }));
    }
  });
  useEffect(() => tell(), [packet.id]);
}
