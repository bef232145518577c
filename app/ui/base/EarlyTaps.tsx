import { useEffect } from 'react';
import { useNonce } from './nonce.ts';

type Tap = { on: HTMLElement; at: number };
type Keeper = { taps: Tap[]; done: () => void };
const inPage = () => window as unknown as { versipelTaps?: Keeper };

/**
 * Runs in the page before the application does, as text: keeps what is tapped meanwhile. Links and forms work by themselves; a button that only
 * the application answers would swallow the tap without a word, on an old phone for seconds.
 */
const keep = `(() => {
  const taps = [];
  const take = (event) => {
    const on = event.target instanceof Element && event.target.closest('button[type=button]');
    if (!on || on.disabled) return;
    event.stopImmediatePropagation();
    event.preventDefault();
    taps.push({ on, at: Date.now() });
    on.setAttribute('aria-busy', 'true');
  };
  document.addEventListener('click', take, true);
  window.versipelTaps = { taps, done: () => document.removeEventListener('click', take, true) };
})();`;

/** The script that keeps early taps: stands before everything that can be tapped. */
export const EarlyTaps = () => (
  <script nonce={useNonce()} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: keep }} />
);

let tappedAt: number | undefined;
/** When the tap that is being answered was made, ms: now, or earlier where the page was not alive yet. */
export const tapTime = (): number => tappedAt ?? Date.now();

/**
 * Gives the taps that were kept to the page once all of it listens, each once, in their order; marks the document as alive. The page draws what a
 * tap changed before it gets the next one. What is no longer in the page is let go: it was not what the tap meant.
 */
export function useEarlyTaps(): void {
  useEffect(() => {
    const { versipelTaps: keeper } = inPage();
    delete inPage().versipelTaps;
    document.documentElement.dataset.alive = '';
    keeper?.done();
    const give = () => {
      const tap = keeper?.taps.shift();
      if (!tap) return;
      tap.on.removeAttribute('aria-busy');
      tappedAt = tap.at;
      if (tap.on.isConnected) tap.on.click();
      tappedAt = undefined;
      setTimeout(give);
    };
    give();
  }, []);
}
