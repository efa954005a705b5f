// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { api, type Packet, type Page } from '../api/client';
import { keys } from '../api/keys';
import { setServerState } from '../api/revisions';
import { useCommands } from './useCommands';

const page = (id: string, number: number) => ({ id, number, turn: 0, width: 595, height: 842 }) as Page;

const packet = (revision: number, undo = '') =>
  ({
    id: 'k1',
    name: 'Packet',
    revision,
    undo,
    redo: '',
    sources: [],
    setAside: [],
    parts: [{ id: 's1', title: 'Part', pages: [page('p1', 1), page('p2', 2)] }],
  }) as unknown as Packet;

interface Answer {
  data?: unknown;
  error?: unknown;
  response: Response;
}

type Reply = () => Answer | Promise<Answer>;

const answer = (body: unknown, status = 200): Answer => ({
  [status < 400 ? 'data' : 'error']: body,
  response: new Response(null, { status }),
});

/** Answers requests in turn by their method and path; what is not told of fails as an unplugged cable does. */
function serve(replies: Record<string, Reply[]>) {
  const asked: string[] = [];
  const reply = async (request: string) => {
    asked.push(request);
    const next = replies[request]?.shift();
    if (!next) throw new TypeError('Failed to fetch');
    return next();
  };
  for (const method of ['GET', 'POST'] as const) {
    vi.spyOn(api, method).mockImplementation(((path: string) => reply(`${method} ${path}`)) as never);
  }
  vi.stubGlobal('fetch', async (path: string) => (await reply(`GET ${path}`)).response);
  return asked;
}

const COMMANDS = 'POST /api/packets/{id}/commands';
const PACKET = 'GET /api/packets/{id}';
const READY = 'GET /api/readiness';
const json =
  (body: unknown, status = 200): Reply =>
  () =>
    answer(body, status);
const turn = [{ do: 'turn' as const, pages: ['p1'], by: 90 }];

let cache: QueryClient;
const shown = () => cache.getQueryData<Packet>(keys.packet('k1'));

function open() {
  cache = new QueryClient({ defaultOptions: { mutations: { networkMode: 'always' } } });
  cache.setQueryData(keys.packet('k1'), setServerState(packet(1)));
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={cache}>{children}</QueryClientProvider>
  );
  return renderHook(() => useCommands('k1'), { wrapper }).result;
}

describe('the command queue', () => {
  afterEach(() => {
    cleanup();
    vi.restoreAllMocks();
    vi.unstubAllGlobals();
  });

  it('shows an act at once, before the server answers', async () => {
    let finish: (answer: Answer) => void = () => undefined;
    serve({
      [COMMANDS]: [() => new Promise((resolve) => (finish = resolve))],
      [PACKET]: [json(packet(2, 'Turned page 1 right'))],
    });
    const commands = open();
    act(() => void commands.current.act(turn));
    await waitFor(() => expect(shown()?.parts[0]?.pages[0]?.turn).toBe(90));
    expect(shown()?.revision).toBe(1);
    finish(answer({ id: 'k1', from: 7, revision: 8 }));
    await waitFor(() => expect(shown()?.undo).toBe('Turned page 1 right'));
  });

  it('sends an act again when the server answers again', async () => {
    const asked = serve({
      [READY]: [json({ ready: true })],
      [PACKET]: [json(packet(1)), json(packet(2, 'Turned page 1 right'))],
    });
    const commands = open();
    act(() => void commands.current.act(turn));
    await waitFor(() => expect(asked.filter((request) => request === COMMANDS)).toHaveLength(2));
    expect(shown()?.parts[0]?.pages[0]?.turn).toBe(90);
  });

  it('does not do twice what may have been done', async () => {
    const asked = serve({
      [READY]: [json({ ready: true })],
      [PACKET]: [json(packet(2, 'Turned page 1 right')), json(packet(2, 'Turned page 1 right'))],
    });
    const commands = open();
    await act(() => commands.current.act(turn));
    expect(asked.filter((request) => request === COMMANDS)).toHaveLength(1);
  });

  it('does an act on what somebody else made of the packet', async () => {
    const asked = serve({
      [COMMANDS]: [
        json({ packet: packet(5, 'Renamed the packet') }, 409),
        json({ id: 'k1', from: 9, revision: 10 }),
      ],
      [PACKET]: [json(packet(6, 'Turned page 1 right'))],
    });
    const commands = open();
    await act(() => commands.current.act(turn));
    expect(asked).toEqual([COMMANDS, COMMANDS, PACKET]);
    expect(shown()?.revision).toBe(6);
  });

  it('does nothing where the pages are gone', async () => {
    const other = packet(5);
    other.parts = [];
    const asked = serve({ [COMMANDS]: [json({ packet: other }, 409)] });
    const commands = open();
    await act(() => commands.current.act(turn));
    expect(asked.filter((request) => request === COMMANDS)).toHaveLength(1);
  });
});
