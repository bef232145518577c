import { Link } from 'react-router';
import type { Standing } from '#core/proof/index.ts';
import { words } from '../../messages/index.ts';
import type { LeanRow } from '../../server/rows.server.ts';
import { RowStrip } from '../base/RowStrip.tsx';
import { useAlive } from '../base/useAlive.ts';
import { sayPress, type LeanPress } from '../vinyls/sayPress.ts';
import { useTemperatureUnit } from '../people/usePerson.ts';
import { Swatch } from '../vinyls/Swatch.tsx';
import { vinylHex, vinylLine, vinylName } from '../vinyls/vinylName.ts';

/** How far a row's vinyl is known here: its corner says so. */
export function standingOf(v: Pick<LeanRow, 'from' | 'standing'>): Standing {
  return (v.standing as Standing | undefined) ?? (v.from === 'here' ? 'tried' : 'draft');
}

/** Where a row's number comes from, in a few words. */
export const fromWords = (v: Pick<LeanRow, 'from' | 'crafters'>): string =>
  v.from === 'here'
    ? words.from.tried
    : v.from === 'others' || v.from === 'translated'
      ? words.from.others(v.crafters)
      : words.from.type;

/** What stands at the end of a row: where the number comes from, and how much speaks for it. */
function source(v: LeanRow): [string, string] | undefined {
  if (v.imported && v.from !== 'here') return [words.from.kept, words.from.imported];
  if (v.from === 'others' || v.from === 'translated')
    return [
      words.from.others(v.crafters),
      v.adopted ? words.from.adopted : v.from === 'others' ? words.from.sameModel : words.from.translated,
    ];
  if (!v.strip) return undefined;
  if (v.from === 'here')
    return [words.standing[standingOf(v)] ?? words.from.tried, words.from.cells(v.cells, v.coupons)];
  return [words.from.type, words.from.typeNext];
}

/** Where crafters differ there is no one number: theirs, side by side. */
export const RowCamps = ({ camps }: { camps: string }) => (
  <p className="row-camps">
    <strong>{camps}</strong> {words.from.camps}
  </p>
);

/** How it is pressed on plain cloth, and whose figures they are; nothing where nothing is pressed. */
function RowPress({ press }: { press: LeanPress }) {
  const said = sayPress(press, useTemperatureUnit());
  if (!said || press === 'not said') return null;
  return (
    <div className="row-press small" data-testid="row-press">
      {said.figures} <span className="quiet">· {said.source}</span>
      {typeof press === 'object' && press.over && <span className="care-line">{press.over}</span>}
    </div>
  );
}

/** A vinyl as one row: what it looks like, its window on the cutter on the bench, and where the number comes from. */
export function VinylRow({ vinyl: v }: { vinyl: LeanRow }) {
  const [from, why] = source(v) ?? [];
  return (
    <li>
      <Link className="row row-vinyl" to={`/vinyls/${v.id}`}>
        <Swatch type={v.type} hex={vinylHex(v)} standing={standingOf(v)} />
        <div>
          <div className="row-name">{vinylName(v)}</div>
          <div className="quiet">{vinylLine(v)}</div>
          {v.press && <RowPress press={v.press} />}
        </div>
        <div className="row-strip">
          {v.camps ? <RowCamps camps={v.camps} /> : <RowStrip strip={v.strip} width={420} height={22} />}
        </div>
        <div className="row-from">
          {from && (
            <>
              <strong>{from}</strong>
              <div className="quiet small">{why}</div>
            </>
          )}
        </div>
      </Link>
    </li>
  );
}

/** Rows that the server draws: more than one sees at first. */
const AT_ONCE = 10;
/**
 * Vinyls as rows: those far below what one sees at first are names in the room that is kept for them, and drawn when the page has come
 * alive.
 */
export function VinylRows({ vinyls }: { vinyls: readonly LeanRow[] }) {
  const alive = useAlive();
  return (
    <ul className="rows">
      {vinyls.map((v, i) =>
        alive || i < AT_ONCE ? (
          <VinylRow key={v.id} vinyl={v} />
        ) : (
          <li key={v.id} className="row-coming">
            <a href={`/vinyls/${v.id}`}>{vinylName(v)}</a>
          </li>
        ),
      )}
    </ul>
  );
}
