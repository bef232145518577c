import { faultsOf, type Fault } from '#core/artwork/index.ts';
import type { Route } from './+types/route';

/** What the page of size and place is told. */
export type Size = NonNullable<Route.ComponentProps['loaderData']['size']>;

/** Each layer with what of it is too narrow for its vinyl at a width. */
export const judgedOf = (size: Size, widthUm: number): { layer: Size['layers'][number]; faults: Fault[] }[] =>
  size.layers.map((layer) => ({
    layer,
    faults: layer.needs ? faultsOf(size, { id: layer.path, narrow: layer.narrow }, layer.needs, widthUm) : [],
  }));
