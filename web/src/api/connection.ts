import { useSyncExternalStore } from 'react';

const ASK_AGAIN_MS = 1000;

let isLost = false;
const listeners = new Set<() => void>();
let back: Promise<void> | undefined;

function set(lost: boolean) {
  if (lost === isLost) return;
  isLost = lost;
  listeners.forEach((listener) => listener());
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whether Dorbin does not answer. */
export const useIsConnectionLost = () => useSyncExternalStore(subscribe, () => isLost);

/** Waits until Dorbin answers again; everybody is told meanwhile that it does not. */
export function untilBack(): Promise<void> {
  set(true);
  back ??= ask().finally(() => {
    back = undefined;
    set(false);
  });
  return back;
}

async function ask(): Promise<void> {
  for (;;) {
    try {
      if ((await fetch('/api/readiness')).ok) return;
    } catch {
      // not yet
    }
    await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN_MS));
  }
}
