import { useEffect, useState } from 'react';
import { letteringLimits } from '#core/artwork/index.ts';
import { jobLimits } from '#core/job/index.ts';
import { readLength } from '#core/units/index.ts';
import { words } from '../../messages/index.ts';
import { typedLength } from '../../ui/base/format.ts';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import { keepOwnFont, ownFont, type FaceKey, type Own } from './faces.ts';
import { textsIn } from './textsIn.ts';
import type { Route } from './+types/route';

/** Sizes of a box that make sense, µm. */
const LEAST = 5_000;
const MOST = 600_000;
/** A table of names larger than this is none. */
const TABLE = 200_000;

/** What somebody wants lettered: the list, the face, the box each goes into. */
export function useList(job: Route.ComponentProps['loaderData']['job']) {
  const unit = useLengthUnit();
  const [text, setText] = useState(job?.names.join('\n') ?? '');
  const [face, setFace] = useState<FaceKey>('script');
  const [own, setOwn] = useState<Own>();
  const [wide, setWide] = useState(typedLength(job?.box.width ?? 127_000, unit));
  const [high, setHigh] = useState(typedLength(job?.box.height ?? 38_100, unit));
  const [oneSize, setOneSize] = useState(false);
  const [join, setJoin] = useState(false);
  const [film, setFilm] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  useEffect(() => void ownFont().then(setOwn), []);

  const box = { width: readLength(wide, unit) ?? NaN, height: readLength(high, unit) ?? NaN };
  const fits = Object.values(box).every((n) => n >= LEAST && n <= MOST);
  let all: string[] = [];
  let unread = false;
  try {
    all = textsIn(text);
  } catch {
    unread = true;
  }
  const openOwn = async (file: File | undefined) => {
    if (!file) return;
    setWrong(undefined);
    if (file.size > letteringLimits.font) return setWrong(words.names.largeFont);
    const chosen = { name: file.name.slice(0, 80), bytes: await file.arrayBuffer() };
    setOwn(chosen);
    setFace('own');
    await keepOwnFont(chosen);
  };
  const openTable = async (file: File | undefined) => {
    if (!file) return;
    setWrong(undefined);
    if (file.size > TABLE) return setWrong(words.names.largeTable);
    setText(await file.text());
  };
  return {
    text,
    setText,
    face,
    setFace,
    own,
    openOwn,
    openTable,
    wide,
    setWide,
    high,
    setHigh,
    oneSize,
    setOneSize,
    join,
    setJoin,
    film,
    setFilm,
    texts: fits ? all.slice(0, jobLimits.pieces) : [],
    cut: all.length > jobLimits.pieces,
    box: fits ? box : { width: 127_000, height: 38_100 },
    hex: job?.hex ?? '#20242b',
    wrong: wrong ?? (fits ? (unread ? words.names.unread : undefined) : words.names.boxWrong),
  };
}
export type List = ReturnType<typeof useList>;
