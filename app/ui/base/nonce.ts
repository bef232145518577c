import { createContext, useContext } from 'react';

/** The nonce of this answer's Content-Security-Policy; empty in the browser, where it is not needed again. */
export const NonceContext = createContext<string | undefined>(undefined);
export const useNonce = () => useContext(NonceContext);

/** The nonce of the page in the browser, for parts that make styles of their own: taken from a style that has it. */
export const pageNonce = (): string | undefined =>
  document.querySelector<HTMLStyleElement>('style[data-emotion]')?.nonce || undefined;
