import { useEffect, useRef } from 'react';
import { t } from '../words';

/**
 * Takes pictures and files from the clipboard. A field that has the keyboard keeps what is pasted as text. Without
 * files, something else may be pasted.
 */
export function usePaste(onFiles: (files: File[]) => void, onNoFiles?: () => void) {
  const newest = useRef({ onFiles, onNoFiles });
  useEffect(() => {
    newest.current = { onFiles, onNoFiles };
  });
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])].map(named);
      if (files.length === 0) {
        newest.current.onNoFiles?.();
        return;
      }
      event.preventDefault();
      newest.current.onFiles(files);
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, []);
}

/** Browsers call every pasted picture the same: give it the time as its name. */
function named(file: File): File {
  if (!/^image\.\w+$/.test(file.name)) return file;
  const time = new Date().toTimeString().slice(0, 8).replaceAll(':', '.');
  const extension = file.name.split('.').at(-1) ?? 'png';
  return new File([file], t('intake.pasted', { time, extension }), {
    type: file.type,
    lastModified: Date.now(),
  });
}
