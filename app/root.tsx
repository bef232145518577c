import CssBaseline from '@mui/material/CssBaseline';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { ThemeProvider } from '@mui/material/styles';
import { useEffect, type ReactNode } from 'react';
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useRouteLoaderData,
} from 'react-router';
import { unreadCount } from '#work/shelf/inbox.ts';
import { formerSelves } from '#work/people/people.ts';
import { unreadNotices } from '#work/shelf/social.ts';
import type { Route } from './+types/root';
import { keepSentDrafts } from './ui/base/useDraft.ts';
import { words } from './messages/index.ts';
import { visitorsBench, newKey, visitor } from './server/enter.server.ts';
import './theme/app.css';
import { theme } from './theme/theme.ts';
import { Frame } from './ui/Frame.tsx';
import { EarlyTaps, useEarlyTaps } from './ui/base/EarlyTaps.tsx';
import type { Here } from './ui/people/usePerson.ts';
import { useNonce } from './ui/base/nonce.ts';
import { OutboxProvider } from './ui/base/outbox.tsx';

/** Who is here and what is on their bench: shown on every page. */
export async function loader(args: Route.LoaderArgs) {
  const person = await visitor(args);
  const [bench, found, told] = await Promise.all([visitorsBench(args), unreadCount(person), unreadNotices(person)]);
  const unread = found + told;
  return {
    // What the keys of this page's forms begin with: whoever does not have the page cannot guess one.
    once: newKey(),
    unread,
    person:
      person &&
      ({
        id: person.id,
        name: person.name,
        guest: person.email === null,
        lengthUnit: person.length_unit,
        temperatureUnit: person.temperature_unit,
        numberStyle: person.number_style,
        zone: person.zone,
        formerly: person.email === null ? [] : await formerSelves(person),
        email: person.email,
      } satisfies Here),
    bench: bench && {
      cutter: bench.cutter.name,
      blade: bench.blade && {
        name: bench.blade.name,
        angle: bench.blade.angle,
        cutUm: bench.blade.cutUm,
        lifeUm: bench.blade.lifeUm,
      },
    },
  };
}

export const meta: Route.MetaFunction = () => [{ title: words.product }, { name: 'description', content: words.about }];

export function Layout({ children }: { children: ReactNode }) {
  const nonce = useNonce();
  // Of every page, that of an error too.
  useEarlyTaps();
  const here = useRouteLoaderData<typeof loader>('root');
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="color-scheme" content="light dark" />
        <link rel="icon" href="/icon.svg" type="image/svg+xml" />
        <Meta />
        <Links />
      </head>
      <body>
        <EarlyTaps />
        <InitColorSchemeScript attribute="data-scheme" defaultMode="system" nonce={nonce} />
        <ThemeProvider theme={theme} defaultMode="system">
          <CssBaseline />
          <OutboxProvider personId={here?.person?.id} formerly={here?.person?.formerly}>
            <Frame person={here?.person} bench={here?.bench} unread={here?.unread ?? 0}>
              {children}
            </Frame>
          </OutboxProvider>
        </ThemeProvider>
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function App() {
  return <Outlet />;
}

const errorTexts: Record<number, { title: string; what: string }> = {
  400: words.errors.wrong,
  403: words.errors.refused,
  404: words.errors.missing,
  409: words.errors.stale,
  413: words.errors.wrong,
  429: words.errors.often,
  503: { title: words.errors.away.title, what: words.errors.away.page },
};

/** Milliseconds after which a page that was away looks whether its server is back. */
const LOOK_AGAIN = 2_000;

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const status = isRouteErrorResponse(error) ? error.status : 500;
  const text = errorTexts[status] ?? words.errors.broken;
  const away = status === 503;
  useEffect(keepSentDrafts, []);
  useEffect(() => {
    if (!away) return;
    const look = setInterval(() => {
      fetch('/health').then(
        (answer) => answer.ok && location.reload(),
        () => undefined,
      );
    }, LOOK_AGAIN);
    return () => clearInterval(look);
  }, [away]);
  return (
    <div role="alert">
      <h1>{text.title}</h1>
      <p className="lede above-12">{text.what}</p>
      <div className="actions">
        <a href="/">{words.errors.back}</a>
      </div>
    </div>
  );
}
