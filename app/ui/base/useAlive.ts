import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** Whether the page has come alive: on the server, and without script, it has not. */
export const useAlive = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
