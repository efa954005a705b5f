import { useEffect, useRef, useState } from 'react';

/** A point of the window, in pixels. */
export interface WindowPoint {
  x: number;
  y: number;
}

/** Pages of a source that are dragged from the intake. */
export interface SourcePages {
  source: string;
  pages: number[];
}

/** What is dragged over the window from outside the wall, and where it is. */
export interface OutsideDrag extends WindowPoint {
  kind: 'files' | 'pages';
}

const PAGES_TYPE = 'application/x-dorbin-pages';

/** Puts pages of a source into a drag that begins. */
export function carryPages(transfer: DataTransfer, pages: SourcePages) {
  transfer.effectAllowed = 'copy';
  transfer.setData(PAGES_TYPE, JSON.stringify(pages));
}

interface Options {
  onFiles: (files: File[], point: WindowPoint) => void;
  onPages?: (pages: SourcePages, point: WindowPoint) => void;
}

/** Takes files, folders and a source's pages that are dropped anywhere on the window. */
export function useOutsideDrag({ onFiles, onPages }: Options): OutsideDrag | undefined {
  const [drag, setDrag] = useState<OutsideDrag>();
  const newest = useRef({ onFiles, onPages });
  useEffect(() => {
    newest.current = { onFiles, onPages };
  });

  useEffect(() => {
    void loadSelector();
    const kindOf = (event: DragEvent): OutsideDrag['kind'] | undefined => {
      const types = event.dataTransfer?.types ?? [];
      if (types.includes('Files')) return 'files';
      return types.includes(PAGES_TYPE) && newest.current.onPages ? 'pages' : undefined;
    };
    const onOver = (event: DragEvent) => {
      const kind = kindOf(event);
      if (!kind) return;
      event.preventDefault(); // says that it can be dropped here
      if (event.dataTransfer) event.dataTransfer.dropEffect = 'copy';
      setDrag({ kind, x: event.clientX, y: event.clientY });
    };
    const onLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setDrag(undefined); // out of the window
    };
    const onEnd = () => setDrag(undefined);
    const onDrop = (event: DragEvent) => {
      const kind = kindOf(event);
      if (!kind) return;
      event.preventDefault();
      setDrag(undefined);
      const point = { x: event.clientX, y: event.clientY };
      const text = event.dataTransfer?.getData(PAGES_TYPE);
      if (kind === 'pages' && text) newest.current.onPages?.(JSON.parse(text) as SourcePages, point);
      else void filesOf(event).then((files) => files.length > 0 && newest.current.onFiles(files, point));
    };
    window.addEventListener('dragenter', onOver);
    window.addEventListener('dragover', onOver);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('dragend', onEnd);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragenter', onOver);
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('dragend', onEnd);
      window.removeEventListener('drop', onDrop);
    };
  }, []);
  return drag;
}

type Selector = (event: DragEvent) => Promise<unknown[]>;

/** Reads the files in folders, too. It brings the types of all kinds of files along, and comes after the view is shown. */
let selector: Selector | undefined;

async function loadSelector() {
  const { fromEvent } = await import('file-selector');
  selector ??= fromEvent;
}

/** The files of a drop, also those in folders, without the hidden ones that systems leave there. */
async function filesOf(event: DragEvent): Promise<File[]> {
  const dropped = selector ? await selector(event) : [...(event.dataTransfer?.files ?? [])];
  return dropped.flatMap((item) => (item instanceof File && !item.name.startsWith('.') ? [item] : []));
}
