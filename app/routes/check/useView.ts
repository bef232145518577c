import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';

/** The part of a drawing that is seen, in its units. */
export type View = { x: number; y: number; w: number };

/** How near one goes: a two-hundredth of the drawing fills the stage. */
const NEAREST = 200;
/** A mark that is looked at has so much of the drawing round it. */
const ROUND_MARK = 0.22;

/** A finger that moved less than this tapped, px. */
const TAP = 6;

/** What is seen of a drawing: zoomed by wheel, two fingers or keys, moved by a finger or keys. */
export function useView(width: number, height: number) {
  const whole = { x: -0.04 * width, y: -0.04 * height, w: 1.08 * width };
  const ratio = (1.08 * height) / (1.08 * width);
  const [view, setView] = useState<View>(whole);
  const stage = useRef<SVGSVGElement>(null);
  const fingers = useRef(new Map<number, { x: number; y: number }>());

  useEffect(() => setView({ x: -0.04 * width, y: -0.04 * height, w: 1.08 * width }), [width, height]);

  /** A place of the screen in units of the drawing. */
  const placeOf = (clientX: number, clientY: number) => {
    const m = stage.current!.getScreenCTM()!.inverse();
    return { x: m.a * clientX + m.e, y: m.d * clientY + m.f };
  };
  const zoom = (by: number, at: { x: number; y: number }) =>
    setView((v) => {
      const w = Math.min(2 * width, Math.max(width / NEAREST, v.w * by));
      const k = w / v.w;
      return { w, x: at.x - (at.x - v.x) * k, y: at.y - (at.y - v.y) * k };
    });
  const middle = (v: View) => ({ x: v.x + v.w / 2, y: v.y + (v.w * ratio) / 2 });

  useEffect(() => {
    const at = stage.current!;
    // React listens to the wheel without a way to keep the page from scrolling.
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      zoom(Math.exp(e.deltaY / 500), placeOf(e.clientX, e.clientY));
    };
    at.addEventListener('wheel', wheel, { passive: false });
    return () => at.removeEventListener('wheel', wheel);
  });

  /** How far fingers moved since one was put down, px: what moves the drawing is no tap. */
  const way = useRef(0);
  const onPointerDown = (e: PointerEvent<SVGSVGElement>) => {
    if (fingers.current.size === 0) way.current = 0;
    fingers.current.set(e.pointerId, { x: e.clientX, y: e.clientY });
  };
  const onPointerMove = (e: PointerEvent<SVGSVGElement>) => {
    const before = fingers.current.get(e.pointerId);
    if (!before) return;
    way.current += Math.hypot(e.clientX - before.x, e.clientY - before.y);
    const [a, b] = [placeOf(before.x, before.y), placeOf(e.clientX, e.clientY)];
    const other = [...fingers.current].find(([id]) => id !== e.pointerId)?.[1];
    fingers.current.set(e.pointerId, { x: e.clientX, y: e.clientY });
    if (other) {
      const far = (p: { x: number; y: number }) => Math.hypot(p.x - other.x, p.y - other.y) || 1;
      zoom(far(before) / far({ x: e.clientX, y: e.clientY }), placeOf(other.x, other.y));
    } else setView((v) => ({ ...v, x: v.x - (b.x - a.x), y: v.y - (b.y - a.y) }));
  };
  const onPointerUp = (e: PointerEvent<SVGSVGElement>) => void fingers.current.delete(e.pointerId);
  const onKeyDown = (e: KeyboardEvent<SVGSVGElement>) => {
    const by = 0.12 * view.w;
    const moves: Record<string, () => void> = {
      '+': () => zoom(0.8, middle(view)),
      '-': () => zoom(1.25, middle(view)),
      '0': () => setView(whole),
      ArrowLeft: () => setView((v) => ({ ...v, x: v.x - by })),
      ArrowRight: () => setView((v) => ({ ...v, x: v.x + by })),
      ArrowUp: () => setView((v) => ({ ...v, y: v.y - by })),
      ArrowDown: () => setView((v) => ({ ...v, y: v.y + by })),
    };
    const move = moves[e.key];
    if (!move) return;
    e.preventDefault();
    move();
  };
  return {
    stage,
    box: `${view.x} ${view.y} ${view.w} ${view.w * ratio}`,
    w: view.w,
    zoomIn: () => zoom(0.7, middle(view)),
    zoomOut: () => zoom(1 / 0.7, middle(view)),
    all: () => setView(whole),
    placeOf,
    moved: () => way.current > TAP,
    /** Looks at a place: it is in the middle, near enough to see. */
    lookAt: (x: number, y: number) => {
      const w = ROUND_MARK * width;
      setView({ x: x - w / 2, y: y - (w * ratio) / 2, w });
    },
    hands: {
      onPointerDown,
      onPointerMove,
      onPointerUp,
      onPointerLeave: onPointerUp,
      onPointerCancel: onPointerUp,
      onKeyDown,
    },
  };
}
