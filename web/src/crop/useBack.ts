import { useSearchParams } from 'wouter';
import type { Page } from '../api/client';

/** Where the user came from: the bench, or the read-through at its page. */
export function useBack(packet: string, page: Page | undefined): string {
  const [address] = useSearchParams();
  if (address.has('reading') && page) return `/packets/${packet}/read/${page.id}`;
  return `/packets/${packet}${page ? `?page=${page.id}` : ''}`;
}
