import { createContext, useContext } from 'react';

/** The nonce of this answer's Content-Security-Policy; empty in the browser, where it is not needed again. */
export const NonceContext = createContext<string | undefined>(undefined);
export const useNonce = () => useContext(NonceContext);
