import { useEffect } from 'react';
import { pictureUrl, type Page } from '../api/client';
import { FINE } from '../shared/PageSheet';

const AHEAD = 2;

/** Fetches the fine pictures of the pages that come next, so that they are sharp at once. */
export function usePrefetch(pages: readonly Page[]) {
  const urls = pages
    .slice(0, AHEAD)
    .flatMap((page) => pictureUrl(page, FINE) ?? [])
    .join(' ');
  useEffect(() => {
    const images = urls.split(' ').map((url) => {
      const image = new Image();
      image.fetchPriority = 'low';
      image.src = url;
      return image;
    });
    return () => images.forEach((image) => image.removeAttribute('src'));
  }, [urls]);
}
