import type { CutPath, Mat } from './physics.ts';
import type { Point } from '#core/coupon/index.ts';

/**
 * A cell after weeding, drawn point by point from how deep the blade went: film where it still holds, bare carrier where the
 * waste came away, the groove in the carrier where it was cut too deep, the mat to be seen where the piece fell out. It shows
 * what happened and says no grade.
 */
export function pictureOf(paths: CutPath[], mat: Mat, grade: string): string {
  // The number beneath the figure is not part of what is weeded.
  const all = paths.filter((p) => p.path.closed).flatMap((p) => p.path.points);
  const [left, right] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const [low, high] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const pad = 900;
  // The drawing comes from the file, y upwards.
  const xy = ([x, y]: Point) => `${Math.round(x - left + pad)} ${Math.round(high - y + pad)}`;
  const outline = (p: CutPath) => `M${p.path.points.map(xy).join('L')}${p.path.closed ? 'Z' : ''}`;
  const closed = paths.filter((p) => p.path.closed);
  const box = (p: CutPath) => {
    const xs = p.path.points.map((q) => q[0]);
    return Math.max(...xs) - Math.min(...xs);
  };
  const frame = closed.reduce<CutPath | undefined>((w, p) => (!w || box(p) > box(w) ? p : w), undefined);
  const inner = closed.filter((p) => p !== frame);
  const body = inner.reduce<CutPath | undefined>((w, p) => (!w || box(p) > box(w) ? p : w), undefined);
  const film = '#8d4f79';
  const parts: string[] = [];
  const runs = (p: CutPath, wanted: (d: number) => boolean): string[] => {
    const lines: string[] = [];
    let run: Point[] = [];
    for (const point of [...p.points, undefined]) {
      if (point && wanted(point.depth)) run.push(point.at);
      else {
        if (run.length > 1) lines.push(`M${run.map(xy).join('L')}`);
        run = [];
      }
    }
    return lines;
  };
  const whole = grade === 'uncut';
  if (frame) parts.push(`<path class="carrier" d="${outline(frame)}" fill="${whole ? film : '#f5efdf'}"/>`);
  if (!whole)
    for (const p of inner) {
      const hole = p !== body && body && box(p) < 3_000;
      parts.push(
        grade === 'through'
          ? `<path class="gap" d="${outline(p)}" fill="#5c6a5f"/>`
          : `<path class="${hole ? 'hole' : 'piece'}" d="${outline(p)}" fill="${hole ? '#f5efdf' : film}"/>`,
      );
    }
  if (grade === 'hangs')
    for (const p of closed)
      for (const d of runs(p, (depth) => depth < mat.film))
        parts.push(
          `<path class="holds" d="${d}" fill="none" stroke="${film}" stroke-width="1100" stroke-linecap="round" stroke-opacity="0.9"/>`,
        );
  if (whole)
    for (const p of closed)
      parts.push(
        `<path class="line" d="${outline(p)}" fill="none" stroke="#2a1424" stroke-opacity="0.5" stroke-width="90"/>`,
      );
  for (const p of closed)
    for (const d of runs(p, (depth) => depth >= mat.film + 0.3 * mat.carrier))
      parts.push(`<path class="groove" d="${d}" fill="none" stroke="#6f4a17" stroke-width="190"/>`);
  const [w, h] = [right - left + 2 * pad, high - low + 2 * pad];
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w / 100}" height="${h / 100}"><rect width="${w}" height="${h}" fill="#d9d3c0"/>${parts.join('')}</svg>`;
}
