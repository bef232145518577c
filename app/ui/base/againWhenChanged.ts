import type { ShouldRevalidateFunction } from 'react-router';

/** A page whose form was refused because of what was saved meanwhile fetches that, to show it beside what was typed; see `over`. */
export const againWhenChanged: ShouldRevalidateFunction = ({ actionStatus, defaultShouldRevalidate }) =>
  actionStatus === 409 || defaultShouldRevalidate;
