import { useEffect } from 'react';
import { tell, tellProblem } from '../shared/notify';
import { onUploadFinished } from './uploads';

interface Options {
  packet: string;
  onLocked: (source: string, name: string) => void;
}

/** Tells the user what became of the files they added. */
export function useOutcomes({ packet, onLocked }: Options) {
  useEffect(
    () =>
      onUploadFinished((outcome, upload) => {
        if (upload.packet !== packet) return;
        if (outcome.result === 'locked' && outcome.source) onLocked(outcome.source, outcome.name);
        if (outcome.result === 'refused') tellProblem(outcome.sentence);
        if (outcome.result === 'duplicate') tell(outcome.sentence);
      }),
    [packet, onLocked],
  );
}
