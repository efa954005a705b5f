import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, type FileLook, type FolderListing, type Origin } from './client';
import { keys } from './keys';

/** Names of the folders that the installation allows. */
export function useFolders() {
  return useQuery<string[]>({
    queryKey: keys.folders,
    queryFn: () => data(api.GET('/api/folders')),
    staleTime: Infinity,
  });
}

/** PDFs and folders in a folder, or in one within it; asked for anew each time, as others write there. */
export function useFolder(folder: string, within: string) {
  return useQuery<FolderListing>({
    queryKey: keys.folder(folder, within),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/folders/{folder}/files', {
          params: { path: { folder }, query: { in: within } },
          signal,
        }),
      ),
    staleTime: 0,
    gcTime: 0,
  });
}

/** The first page of a PDF in a folder, as it was at a time. */
export function useLook(folder: string, file: string, modified: string) {
  return useQuery<FileLook>({
    queryKey: keys.look(folder, file, modified),
    queryFn: ({ signal }) =>
      data(api.GET('/api/folders/{folder}/look', { params: { path: { folder }, query: { file } }, signal })),
  });
}

/** Makes a packet of a PDF in a folder. */
export function useOpenFile() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: ({ folder, file }: { folder: string; file: string }) =>
      data(api.POST('/api/folders/{folder}/open', { params: { path: { folder } }, body: { file } })),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.packets }),
  });
}

/** How often a file is looked for that others may change. */
const LOOK_AGAIN = 30_000;

/** The file of a folder that a packet was opened from; null where it was not. */
export function useOrigin(packet: string) {
  return useQuery<Origin | null>({
    queryKey: keys.origin(packet),
    queryFn: async ({ signal }) =>
      (await data(api.GET('/api/packets/{id}/origin', { params: { path: { id: packet } }, signal })))
        .origin ?? null,
    refetchInterval: ({ state }) => (state.data ? LOOK_AGAIN : false),
    refetchOnWindowFocus: ({ state }) => (state.data ? 'always' : false),
  });
}

/** Saves a finished document in the place of the file that its packet was opened from, or beside it. */
export function useSaveBack(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: async ({ made, beside }: { made: string; beside: boolean }) =>
      (
        await data(
          api.POST('/api/exports/{export}/save-back', {
            params: { path: { export: made } },
            body: { beside },
          }),
        )
      ).origin,
    onSettled: () => cache.invalidateQueries({ queryKey: keys.origin(packet) }),
  });
}
