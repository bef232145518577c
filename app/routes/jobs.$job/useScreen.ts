import { useEffect, useState } from 'react';

/** A bank card is so wide, mm. Source: ISO/IEC 7810, ID-1. */
export const CARD = { width: 85.6, height: 53.98 };
const KEPT = 'versipel_screen';
/** Pixels a millimetre that a screen may have: a wall and a watch lie outside. */
const SANE = { least: 1.5, most: 20 };

/** How many pixels of this screen are a millimetre, once a card was held to it; it is kept for this screen. */
export function useScreen() {
  const [pxPerMm, setPxPerMm] = useState<number>();
  useEffect(() => {
    const kept = Number(localStorage.getItem(KEPT));
    if (kept >= SANE.least && kept <= SANE.most) setPxPerMm(kept);
  }, []);
  const measure = (px: number) => {
    const ratio = px / CARD.width;
    if (!(ratio >= SANE.least && ratio <= SANE.most)) return;
    setPxPerMm(ratio);
    localStorage.setItem(KEPT, String(ratio));
  };
  return { pxPerMm, measure };
}
