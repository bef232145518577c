import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { startTransition } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { HydratedRouter } from 'react-router/dom';

// Styles made later in the browser carry the nonce of the page they are added to.
const nonce = document.querySelector<HTMLStyleElement>('style[data-emotion]')?.nonce;
const cache = createCache({ key: 'vp', ...(nonce ? { nonce } : {}) });

startTransition(() => {
  hydrateRoot(
    document,
    <CacheProvider value={cache}>
      <HydratedRouter />
    </CacheProvider>,
  );
});
