import { useLocation } from 'wouter';

/** Where the summary is, in place of a page. */
export const SUMMARY = 'summary';

/** Shows a page of the read-through, or its summary. */
export function useShow(packet: string) {
  const [, navigate] = useLocation();
  return (target: string) => navigate(`/packets/${packet}/read/${target}`, { replace: true });
}
