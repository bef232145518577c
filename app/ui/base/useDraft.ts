import { useEffect, useRef, useState, type RefObject } from 'react';
import { useActionData, useLocation, useRouteLoaderData } from 'react-router';
import type { FormAnswer } from '../../server/enter.server.ts';

const PREFIX = 'versipel.draft.';
/** More than this in one form is not kept, characters: no form of ours has so much. */
const MOST = 20_000;

type Typed = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;
/** What was typed, and the mark of what stood there then. */
type Draft = { values: Record<string, string>; sent: boolean; seen?: string };

/** What a person can type or choose in a form: not what it carries for itself, no files. */
const typedIn = (form: HTMLFormElement): Typed[] =>
  [...form.elements].filter(
    (e): e is Typed =>
      (e instanceof HTMLInputElement || e instanceof HTMLTextAreaElement || e instanceof HTMLSelectElement) &&
      e.name !== '' &&
      !['hidden', 'file', 'submit', 'button'].includes(e.type),
  );
const isTick = (e: Typed): e is HTMLInputElement =>
  e instanceof HTMLInputElement && (e.type === 'radio' || e.type === 'checkbox');

/** Forms of one kind on a page differ in what they carry. */
const keyOf = (form: HTMLFormElement, whose: string, what: string): string =>
  `${PREFIX}${whose} ${what} ${[...form.elements]
    .filter((e): e is HTMLInputElement => e instanceof HTMLInputElement && e.type === 'hidden')
    .filter((e) => e.name !== 'once' && e.name !== 'what' && e.name !== 'seen')
    .map((e) => `${e.name}=${e.value.slice(0, 80)}`)
    .join('&')}`;

const readDraft = (key: string): Draft | undefined => {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? 'null') as Draft | undefined;
  } catch {
    return undefined;
  }
};
const writeDraft = (key: string, draft: Draft | undefined): void => {
  try {
    if (draft) sessionStorage.setItem(key, JSON.stringify(draft));
    else sessionStorage.removeItem(key);
  } catch {
    // A browser that keeps nothing: then a reload begins anew.
  }
};

/** What was on its way when the answer did not come was not taken: it is there again when somebody comes back to its form. */
export function keepSentDrafts(): void {
  try {
    for (const key of Object.keys(sessionStorage)) {
      const draft = key.startsWith(PREFIX) ? readDraft(key) : undefined;
      if (draft?.sent) writeDraft(key, { ...draft, sent: false });
    }
  } catch {
    // As above.
  }
}

/** What was typed on a page is given up: what is saved is wanted instead. */
export function dropDrafts(pathname: string): void {
  try {
    for (const key of Object.keys(sessionStorage))
      if (key.startsWith(PREFIX) && key.includes(` ${pathname} `)) sessionStorage.removeItem(key);
  } catch {
    // As above.
  }
}

/** Puts a value into a field as a hand would, so that whatever listens to the field hears of it. */
function fill(field: Typed, value: string): void {
  const prototype = Object.getPrototypeOf(field) as object;
  Object.getOwnPropertyDescriptor(prototype, 'value')!.set!.call(field, value);
  field.dispatchEvent(new Event(field instanceof HTMLSelectElement ? 'change' : 'input', { bubbles: true }));
}

/**
 * Keeps what is typed in a form over a reload, and over a way to another page and back: in this tab alone, until the form was taken. A field
 * the address speaks of has what the address says. Forms with a password keep nothing.
 * @param seen the mark of what the form is filled in from, see `WriteForm`
 * @returns the mark of what stood there when a draft was typed that is taken up
 */
export function useDraft(
  form: RefObject<HTMLFormElement | null>,
  what: string,
  seen: string | undefined,
): string | undefined {
  // With another mark the form is filled in anew: what was typed before belongs to the one before.
  const [draftOn, setDraftOn] = useState<{ seen: string | undefined; typed: string | undefined }>();

  const { pathname, search } = useLocation();
  const person = useRouteLoaderData<{ person?: { id: string } }>('root')?.person?.id;
  const answer = useActionData<FormAnswer | undefined>();
  const refused = answer?.values?.what === what;
  const first = useRef(true);

  useEffect(() => {
    const element = form.current;
    if (!element || element.querySelector('input[type="password"]')) return;
    const key = keyOf(element, `${person ?? ''} ${pathname}`, what);
    const draft = readDraft(key);
    if (first.current && draft && !draft.sent && !refused) {
      setDraftOn({ seen, typed: draft.seen });
      const said = new URLSearchParams(search);
      for (const field of typedIn(element)) {
        const value = draft.values[isTick(field) ? `${field.name}=${field.value}` : field.name];
        if (value === undefined || said.has(field.name)) continue;
        if (isTick(field)) {
          if (field.checked !== (value === 'on')) field.click();
        } else if (field.value !== value) fill(field, value);
      }
    }
    first.current = false;
    if (draft?.sent) writeDraft(key, refused ? { ...draft, sent: false } : undefined);

    const keep = () => {
      const values = Object.fromEntries(
        typedIn(element).map((f) => (isTick(f) ? [`${f.name}=${f.value}`, f.checked ? 'on' : ''] : [f.name, f.value])),
      );
      const mark = element.querySelector<HTMLInputElement>('input[name=seen]')?.value;
      if (JSON.stringify(values).length <= MOST)
        writeDraft(key, { values, sent: false, ...(mark === undefined ? {} : { seen: mark }) });
    };
    const sent = () => {
      const now = readDraft(key);
      if (now) writeDraft(key, { ...now, sent: true });
    };
    element.addEventListener('input', keep);
    element.addEventListener('change', keep);
    element.addEventListener('submit', sent);
    return () => {
      element.removeEventListener('input', keep);
      element.removeEventListener('change', keep);
      element.removeEventListener('submit', sent);
    };
    // The mark is looked at when a draft is taken up, once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form, pathname, person, refused, search, what]);
  return draftOn && draftOn.seen === seen ? draftOn.typed : undefined;
}
