import { useEffect } from 'react';
import { tell, tellProblem } from '../shared/notify';
import { onUploadFinished } from './uploads';

/** Tells the user what became of the files they added, in whichever view they are by then. */
export function useOutcomeMessages() {
  useEffect(
    () =>
      onUploadFinished((outcome) => {
        if (outcome.result === 'refused') tellProblem(outcome.sentence);
        if (outcome.result === 'duplicate') tell(outcome.sentence);
      }),
    [],
  );
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
