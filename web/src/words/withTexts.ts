import { lazy, type ComponentType } from 'react';
import { loadTexts } from '.';

/** A component that is loaded when it is first shown, after the texts that it may use. */
export function withTexts<P>(load: () => Promise<ComponentType<P>>) {
  return lazy(async () => {
    await loadTexts(); // first: modules take texts from there as they are loaded
    return { default: await load() };
  });
}
