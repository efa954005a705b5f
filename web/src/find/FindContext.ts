import { createContext, use } from 'react';

/** What is searched in the packet that is shown. */
export interface Searched {
  query: string;
  /** The place that is looked at: a match on a page, counted from 0. */
  current?: { page: string; match: number };
  /** The places on pages, by pages. */
  counts: ReadonlyMap<string, number>;
}

const FindContext = createContext<Searched>({ query: '', counts: new Map() });

export const FindProvider = FindContext.Provider;

export const useSearched = () => use(FindContext);
