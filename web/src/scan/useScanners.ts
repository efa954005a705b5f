import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, type Scanner } from '../api/client';
import { keys } from '../api/keys';

export function useScanners() {
  return useQuery({ queryKey: keys.scanners, queryFn: () => data(api.GET('/api/scanners')) });
}

const LOOK_AGAIN = 4_000; // milliseconds; paper is put in without our being told

/** What a scanner can do and how it is, asked for again every few seconds. */
export function useScannerState(id: string | undefined, pause: boolean) {
  return useQuery({
    queryKey: keys.scanner(id ?? ''),
    enabled: id !== undefined,
    refetchInterval: pause ? false : LOOK_AGAIN,
    queryFn: () => data(api.GET('/api/scanners/{id}', { params: { path: { id: id ?? '' } } })),
  });
}

export function useAddScanner() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (address: string) => data(api.POST('/api/scanners', { body: { address } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.scanners }),
  });
}

export function useSearchScanners() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => data(api.POST('/api/scanners/search')),
    onSuccess: (list: Scanner[]) => cache.setQueryData(keys.scanners, list),
  });
}

export function useRemoveScanner() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => data(api.DELETE('/api/scanners/{id}', { params: { path: { id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.scanners }),
  });
}
