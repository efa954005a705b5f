import { useSessionStorage } from '@mantine/hooks';
import { useCallback, useMemo } from 'react';

/** Which parts of a packet are collapsed on the wall; kept for as long as the tab is open. */
export function useCollapsed(packet: string) {
  const [ids, setIds] = useSessionStorage<string[]>({
    key: `dorbin.collapsed.${packet}`,
    defaultValue: [],
    getInitialValueInEffect: false,
  });
  const collapsed: ReadonlySet<string> = useMemo(() => new Set(ids), [ids]);
  const collapse = useCallback(
    (parts: readonly string[], on: boolean) =>
      setIds((old) => [...old.filter((id) => !parts.includes(id)), ...(on ? parts : [])]),
    [setIds],
  );
  return { collapsed, collapse };
}
