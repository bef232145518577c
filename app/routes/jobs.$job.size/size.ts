import { judge, type Judgement } from '#core/artwork/index.ts';
import type { Route } from './+types/route';

/** What the page of size and place is told. */
export type Size = NonNullable<Route.ComponentProps['loaderData']['size']>;

/** Whether the drawing cuts and weeds at a width in the vinyls that were chosen. */
export const judgedOf = (size: Size, widthUm: number): Judgement =>
  judge(
    size,
    size.layers.flatMap((l) => (l.needs ? [{ layer: { id: l.path, narrow: l.narrow }, film: l.needs }] : [])),
    widthUm,
  );
