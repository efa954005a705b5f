import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { askAgain } from './askAgain';

it('gives up even the first answer that is on its way', async () => {
  const cache = new QueryClient();
  const answers: ((answer: string) => void)[] = [];
  const observer = new QueryObserver(cache, {
    queryKey: ['exports', 'one'],
    queryFn: () => new Promise<string>((answer) => answers.push(answer)),
  });
  const stop = observer.subscribe(() => undefined);
  expect(answers).toHaveLength(1);
  const asked = askAgain(cache, ['exports']);
  await expect.poll(() => answers.length).toBe(2);
  answers[1]?.('done');
  await asked;
  answers[0]?.('running');
  await Promise.resolve();
  expect(cache.getQueryData(['exports', 'one'])).toBe('done');
  stop();
});
