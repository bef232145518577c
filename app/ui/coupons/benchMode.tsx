import Button from '@mui/material/Button';
import { useEffect, useSyncExternalStore } from 'react';
import { words } from '../../messages/index.ts';

/**
 * Bench mode: the page alone, full screen, in huge type, and the screen stays awake where the browser can do that. One switch
 * for the whole application, kept while the tab lives.
 */
const KEY = 'versipel.bench';
const listeners = new Set<() => void>();
let on = false;

function put(next: boolean): void {
  on = next;
  document.documentElement.toggleAttribute('data-bench', on);
  try {
    if (on) sessionStorage.setItem(KEY, '1');
    else sessionStorage.removeItem(KEY);
  } catch {
    // Without storage the mode ends with the page.
  }
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

function useBenchMode(): boolean {
  return useSyncExternalStore(
    subscribe,
    () => on,
    () => false,
  );
}

/** Keeps the mode over page loads and the screen awake as long as it lasts. */
export function BenchModeKeeper() {
  const active = useBenchMode();
  useEffect(() => {
    try {
      if (sessionStorage.getItem(KEY)) put(true);
    } catch {
      // Nothing was kept.
    }
    const left = () => !document.fullscreenElement && on && put(false);
    document.addEventListener('fullscreenchange', left);
    return () => document.removeEventListener('fullscreenchange', left);
  }, []);
  useEffect(() => {
    if (!active || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    // A browser gives the lock up when the page is hidden: it is asked for again when it is back.
    const ask = () => {
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (got) => (gone ? void got.release() : (lock = got)),
        () => undefined,
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, [active]);
  return null;
}

/** Goes into bench mode; not there while it lasts. */
export function BenchModeButton() {
  if (useBenchMode()) return null;
  const enter = () => {
    put(true);
    // It begins with what is to be done, not where the page happened to be.
    window.scrollTo(0, 0);
    // Refused inside frames and on some phones: the mode is worth having without it.
    void document.documentElement.requestFullscreen?.().catch(() => undefined);
  };
  return <Button onClick={enter}>{words.frame.enterBench}</Button>;
}

/** The way out, at the foot of every page while bench mode lasts. */
export function BenchModeLeave() {
  if (!useBenchMode()) return null;
  const leave = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    put(false);
  };
  return (
    <div className="actions">
      <Button onClick={leave}>{words.frame.leaveBench}</Button>
    </div>
  );
}
