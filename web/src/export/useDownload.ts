import { useEffect, useRef, useState } from 'react';
import { exportFileUrl, type Export } from '../api/client';
import { download } from '../shared/download';

/** Downloads an export as soon as it is finished. Returns what tells which. */
export function useDownload(exports: readonly Export[] | undefined) {
  const [wanted, setWanted] = useState<string>();
  const downloaded = useRef<string>(undefined);
  const made = exports?.find(({ id, state }) => id === wanted && state === 'done');
  useEffect(() => {
    if (!made || downloaded.current === made.id) return;
    downloaded.current = made.id;
    download(exportFileUrl(made.id), made.name);
  }, [made]);
  return setWanted;
}
