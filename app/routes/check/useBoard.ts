import { useEffect, useRef, useState } from 'react';
import type { Artwork, Mend } from '#core/artwork/index.ts';
import type { CheckFilm } from '#work/jobs/check.ts';
import type { ArtworkAsked, ArtworkDone } from '../../../workers/artwork.worker.ts';
import { filmByKey } from '../../ui/jobs/FilmSelect.tsx';
import { Refused, Stopped } from '../../ui/base/askWorker.ts';
import { askArtwork } from '../../ui/jobs/askArtwork.ts';
import type { Route } from './+types/route';

/** A drawing as it lies on the board: its text, what was read of it, and how wide it is to be. */
export type Laid = { name: string; svg: string; artwork: Artwork; widthUm: number; did?: Mend['do'] };
export type Board = ReturnType<typeof useBoard>;
type Job = Route.ComponentProps['loaderData']['job'];

/** How wide a drawing is that does not say it, µm. */
const USUAL = 230_000;
const KEPT = 'versipel_check';
/** Drawings larger than this do not outlive a reload: a browser keeps only so much. */
const KEEPS = 1_500_000;

type Saved = { name: string; svg: string; widthUm: number; films: Record<string, string> };
const saved = (): Saved | undefined => {
  try {
    return JSON.parse(sessionStorage.getItem(KEPT) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
};

/** The drawing that is looked at, every step of mending it, and the film of each colour. It outlives a reload. */
export function useBoard(job: Job, films: readonly CheckFilm[]) {
  const [steps, setSteps] = useState<Laid[]>([]);
  const [at, setAt] = useState(-1);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const running = useRef<() => void>(undefined);
  const now = steps[at];

  const lay = (laid: Laid, fresh: boolean) => {
    setSteps((before) => [...(fresh ? [] : before.slice(0, at + 1)), laid]);
    setAt(fresh ? 0 : at + 1);
  };
  /** Asks the worker something, with what is wrong said; undefined where it was wrong or stopped. */
  const ask = async (what: string, asked: ArtworkAsked): Promise<ArtworkDone | undefined> => {
    setWrong(undefined);
    setBusy(what);
    const { answer, stop } = askArtwork(asked);
    running.current = stop;
    try {
      return await answer;
    } catch (error) {
      if (error instanceof Refused) setWrong(error.message);
      else if (!(error instanceof Stopped)) throw error;
      return undefined;
    } finally {
      setBusy(undefined);
    }
  };
  /** Lays a drawing that was read on the empty board. */
  const put = (name: string, svg: string, artwork: Artwork, widthUm?: number) =>
    lay({ name, svg, artwork, widthUm: widthUm ?? artwork.naturalWidthUm ?? USUAL }, true);
  /** Reads a drawing and lays it on the board. */
  const open = async (name: string, svg: string, widthUm?: number): Promise<void> => {
    const done = await ask('read', { read: svg });
    if (done) put(name, svg, done.artwork!, widthUm);
  };
  const mend = async (what: Mend) => {
    if (!now) return;
    const done = await ask(what.do, { mend: { artwork: now.artwork, mend: what, widthUm: now.widthUm } });
    if (done)
      lay({ name: now.name, svg: done.svg!, artwork: done.artwork!, widthUm: done.widthUm!, did: what.do }, false);
  };
  const resize = (widthUm: number) =>
    setSteps((before) => before.map((s, i) => (i === at ? { ...s, widthUm: Math.round(widthUm) } : s)));

  const first = useRef(true);
  useEffect(() => {
    if (!first.current) return;
    first.current = false;
    if (job) {
      setChosen(Object.fromEntries(job.films.map((f) => [f.hex, f.vinyl])));
      void open(job.drawing.name, job.drawing.svg, job.drawing.widthUm);
      return;
    }
    const kept = saved();
    if (!kept) return;
    setChosen(kept.films);
    void open(kept.name, kept.svg, kept.widthUm);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page is there
  }, []);
  useEffect(() => {
    if (job || !now || now.svg.length > KEEPS) return;
    const { name, svg, widthUm } = now;
    try {
      sessionStorage.setItem(KEPT, JSON.stringify({ name, svg, widthUm, films: chosen } satisfies Saved));
    } catch {
      // No room: a reload begins anew.
    }
  }, [job, now, chosen]);

  const filmOf = (hex: string): CheckFilm => filmByKey(films, chosen[hex]);
  return {
    now,
    before: steps[at - 1],
    busy,
    wrong,
    open,
    put,
    mend,
    resize,
    filmOf,
    choose: (hex: string, key: string) => setChosen((c) => ({ ...c, [hex]: key })),
    stop: () => running.current?.(),
    undo: at > 0 ? () => setAt(at - 1) : undefined,
    redo: at < steps.length - 1 ? () => setAt(at + 1) : undefined,
    /** Another file: the board is empty again. */
    clear: () => {
      sessionStorage.removeItem(KEPT);
      setSteps([]);
      setAt(-1);
    },
  };
}
