import type { NumberStyle } from '#core/units/index.ts';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import { Link, NavLink, useLocation, useNavigation } from 'react-router';
import { words } from '../messages/index.ts';
import { BenchModeKeeper, BenchModeLeave } from './coupons/benchMode.tsx';
import { Find } from './answer/Find.tsx';
import { isolate, metres } from './base/format.ts';
import { PagePatterns } from './base/grades.tsx';

type Props = {
  person: { name: string; guest: boolean; numberStyle: NumberStyle } | undefined;
  bench: { cutter: string; blade: { angle: number; cutUm: number; lifeUm: number } | undefined } | undefined;
  /** What others found with one's cards and one has not looked at. */
  unread: number;
  children: ReactNode;
};

const places = [
  ['/', words.places.bench],
  ['/jobs', words.places.jobs],
  ['/vinyls', words.places.vinyls],
  ['/coupons', words.places.coupons],
  ['/shelf', words.places.shelf],
  ['/workshop', words.places.workshop],
] as const;

/** Whether a key press belongs to something that is being typed in. */
export const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && !!target.closest('input, textarea, select, [contenteditable]');

/** The frame of every page: bench bar and find on top, the few places at the side, at the foot on a phone. */
export function Frame({ person, bench, unread, children }: Props) {
  const find = useRef<HTMLInputElement>(null);
  const [help, setHelp] = useState(false);
  useEffect(() => {
    // Told once, so that a guest's days begin where they live.
    const zone = encodeURIComponent(Intl.DateTimeFormat().resolvedOptions().timeZone);
    document.cookie = `versipel_zone=${zone}; Path=/; SameSite=Lax; Max-Age=31536000`;
  }, []);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '/') {
        event.preventDefault();
        find.current?.focus();
        find.current?.select();
      } else if (event.key === '?') setHelp(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);

  return (
    <>
      <a className="skip" href="#page">
        {words.frame.skip}
      </a>
      <BenchModeKeeper />
      <PagePatterns />
      <Top person={person} bench={bench} find={find} />
      <div className="frame">
        <nav className="side" aria-label="Places">
          {places.map(([to, name]) => (
            <NavLink key={to} to={to} end={to === '/'}>
              {name}
              {to === '/shelf' && unread > 0 && (
                <span className="count">
                  {unread}
                  <span className="visually-hidden"> {words.inbox.new}</span>
                </span>
              )}
            </NavLink>
          ))}
        </nav>
        <main className="main" id="page" tabIndex={-1}>
          {children}
          <BenchModeLeave />
          <footer className="quiet small" style={{ marginTop: 56, display: 'flex', gap: 24, flexWrap: 'wrap' }}>
            <Link to="/preferences">{words.preferences.title}</Link>
            <Link to="/account">{person && !person.guest ? person.name : words.frame.keepWork}</Link>
            <button
              type="button"
              className="desk-only"
              onClick={() => setHelp(true)}
              style={{
                font: 'inherit',
                color: 'var(--action)',
                background: 'none',
                border: 0,
                padding: 0,
                textDecoration: 'underline',
                cursor: 'pointer',
              }}
            >
              {words.frame.help} <kbd>?</kbd>
            </button>
          </footer>
        </main>
      </div>
      <Dialog open={help} onClose={() => setHelp(false)} aria-labelledby="help-title" className="help-dialog">
        <div style={{ padding: 32 }}>
          <h2 id="help-title">{words.help.title}</h2>
          <dl>
            {words.help.rows.map(([key, what]) => (
              <div key={key}>
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="actions">
            <Button onClick={() => setHelp(false)} autoFocus>
              {words.help.close}
            </Button>
          </div>
        </div>
      </Dialog>
    </>
  );
}

/** What stands at the top of every page: what is on the bench, find, who is here. */
function Top({ person, bench, find }: Pick<Props, 'person' | 'bench'> & { find: RefObject<HTMLInputElement | null> }) {
  const { pathname } = useLocation();
  const style = person?.numberStyle ?? 'point';
  // In the bench flow a phone shows the question, not the search.
  const flow = /^\/coupons\/[^/]+\/./.test(pathname);
  const coming = useNavigation().state !== 'idle';
  return (
    <>
      {/* A page that takes a moment shows that it is coming. */}
      <div className="working" hidden={!coming} role="progressbar" aria-label={words.frame.working} />
      <header className={flow ? 'top flow' : 'top'}>
        <Link className="brand" to="/">
          {words.product}
        </Link>
        <Link className="bench-chip" to={bench ? '/workshop' : '/workshop/cutters/new'}>
          {bench ? (
            <>
              <span className="desk-only">{words.frame.onBench}</span>
              <strong>{bench.cutter}</strong>
              {bench.blade ? (
                <>
                  <span>{words.frame.blade(bench.blade.angle)}</span>
                  <span className="quiet small age">
                    {words.frame.age(metres(bench.blade.cutUm, style), metres(bench.blade.lifeUm, style))}
                  </span>
                </>
              ) : (
                <span>{words.frame.noBlade}</span>
              )}
            </>
          ) : (
            <span>{words.frame.nothing}</span>
          )}
        </Link>
        <Find field={find} />
        {pathname !== '/sign-in' && (
          <Link className="who" to={person ? '/preferences' : '/sign-in'}>
            {person ? (person.guest ? words.frame.guest : isolate(person.name.split(' ')[0]!)) : words.signIn.title}
          </Link>
        )}
      </header>
    </>
  );
}
