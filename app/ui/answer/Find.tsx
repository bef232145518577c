import { useEffect, useId, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import { Form, useLocation, useNavigate, useSearchParams } from 'react-router';
import { words } from '../../messages/index.ts';
import type { loader } from '../../routes/find/route.ts';
import { Swatch } from '../vinyls/Swatch.tsx';
import { RowStrip } from '../base/RowStrip.tsx';
import { fromWords, standingOf } from './VinylRow.tsx';
import { useAsk } from '../base/useAsk.ts';
import { vinylHex, vinylLine, vinylName } from '../vinyls/vinylName.ts';

/** Milliseconds without a key before the server is asked. What it is asked then takes the place of what it was asked before. */
const PAUSE = 110;

/**
 * Finds a vinyl from anywhere, as one types: the best fit is marked, Enter opens it, arrows choose another. Without JavaScript it
 * is an ordinary search.
 */
export function Find({ field }: { field: RefObject<HTMLInputElement | null> }) {
  const list = useId();
  const [params] = useSearchParams();
  const { pathname, key } = useLocation();
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const hurry = useRef<string>(undefined);
  const wanted = typed.trim();
  const data = useAsk<Awaited<ReturnType<typeof loader>>>(
    wanted === '' ? undefined : `/find?q=${encodeURIComponent(wanted)}`,
    PAUSE,
  );
  const rows = open && data && data.q === wanted ? data.rows : undefined;

  const go = (id: string) => {
    setOpen(false);
    field.current?.blur();
    void navigate(`/vinyls/${id}`);
  };
  useEffect(() => setOpen(false), [key, pathname]);
  // Enter came before the answer: it opens the best fit as soon as that is known.
  useEffect(() => {
    if (!data || hurry.current === undefined || data.q !== hurry.current) return;
    hurry.current = undefined;
    const best = data.rows[0];
    setOpen(false);
    void navigate(best ? `/vinyls/${best.id}` : `/vinyls?q=${encodeURIComponent(data.q)}`);
  }, [data, navigate]);

  const press = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      if (!rows || rows.length === 0) return;
      setAt((at + (event.key === 'ArrowDown' ? 1 : rows.length - 1)) % rows.length);
      event.preventDefault();
    } else if (event.key === 'Escape') setOpen(false);
    else if (event.key === 'Enter' && wanted !== '') {
      event.preventDefault();
      const chosen = rows?.[at];
      if (chosen) go(chosen.id);
      else if (rows) {
        setOpen(false);
        void navigate(`/vinyls?q=${encodeURIComponent(wanted)}`);
      } else hurry.current = wanted;
    }
  };

  return (
    <Form
      className="find"
      action="/vinyls"
      method="get"
      role="search"
      aria-label={words.places.vinyls}
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && setOpen(false)}
    >
      <input
        key={params.get('q') ?? ''}
        ref={field}
        name="q"
        type="search"
        role="combobox"
        aria-expanded={!!rows}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={rows && rows.length > 0 ? `${list}-${at}` : undefined}
        defaultValue={params.get('q') ?? ''}
        placeholder={words.frame.find}
        aria-label={words.frame.find}
        autoComplete="off"
        maxLength={200}
        onChange={(e) => {
          setTyped(e.currentTarget.value);
          setOpen(true);
          setAt(0);
          hurry.current = undefined;
        }}
        onKeyDown={press}
      />
      <kbd aria-hidden="true">/</kbd>
      {rows && (
        <ul className="finds" id={list} role="listbox" aria-label={words.vinyls.found(rows.length, wanted)}>
          {rows.length === 0 && (
            <li role="option" aria-selected="false" className="none">
              {words.vinyls.none(wanted)}
            </li>
          )}
          {rows.map((v, i) => (
            <li
              key={v.id}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => go(v.id)}
            >
              <Swatch type={v.type} hex={vinylHex(v)} size={44} standing={standingOf(v)} />
              <div>
                <div className="row-name">{vinylName(v)}</div>
                <div className="quiet small">
                  {vinylLine(v)} · {fromWords(v)}
                </div>
                <RowStrip strip={v.strip} width={330} height={16} />
              </div>
            </li>
          ))}
        </ul>
      )}
    </Form>
  );
}
