import { useMutation } from '@tanstack/react-query';
import { api, data, flatten, type Page, type Point } from '../api/client';
import { notifyProblem } from '../shared/notify';

/** Looks for the paper in a page's picture, and for a fold within an outline. */
export function useFindPapers() {
  return useMutation({
    mutationFn: ({ page, within }: { page: Page; within?: Point[] }) =>
      data(
        api.GET('/api/sources/{source}/pages/{number}/papers', {
          params: {
            path: { source: page.source, number: page.sourcePage },
            query: { outline: within && flatten(within) },
          },
          querySerializer: { array: { style: 'form', explode: false } },
        }),
      ),
    onError: (error) => notifyProblem(error.message),
  });
}
