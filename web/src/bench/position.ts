import { useState, useSyncExternalStore } from 'react';

/** Where the wall stands, in words; it changes while one scrolls, and only what shows it is drawn anew. */
export interface Position {
  set: (words: string) => void;
  get: () => string;
  subscribe: (listener: () => void) => () => void;
}

function createPosition(): Position {
  let words = '';
  const listeners = new Set<() => void>();
  return {
    set: (next) => {
      if (next === words) return;
      words = next;
      listeners.forEach((listener) => listener());
    },
    get: () => words,
    subscribe: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

export function usePosition(): Position {
  const [position] = useState(createPosition);
  return position;
}

export function usePositionWords(position: Position): string {
  return useSyncExternalStore(position.subscribe, position.get);
}
