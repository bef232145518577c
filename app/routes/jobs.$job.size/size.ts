import type { Route } from './+types/route';

/** What the page of size and place is told. */
export type Size = NonNullable<Route.ComponentProps['loaderData']['size']>;
