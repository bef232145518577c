import type { CheckFilm } from '#work/jobs/check.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { FilmSelect } from '../../ui/jobs/FilmSelect.tsx';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import { faces, type FaceKey } from './faces.ts';
import type { List } from './useList.ts';

type Props = { list: List; films: readonly CheckFilm[]; film: CheckFilm };

/** The names, the face, the box, the film. */
export function Wanted({ list, films, film }: Props) {
  const t = words.names;
  const unit = useLengthUnit();
  return (
    <div className="form names-wanted">
      <label htmlFor="names">{t.names}</label>
      <textarea
        id="names"
        rows={8}
        className="plain-field"
        value={list.text}
        onChange={(e) => list.setText(e.target.value)}
        spellCheck={false}
        aria-describedby="names-help"
      />
      <p className="quiet small" id="names-help">
        {t.help}{' '}
        <label className="plain-link">
          {t.table}
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="visually-hidden"
            onChange={(e) => void list.openTable(e.target.files?.[0])}
          />
        </label>
      </p>
      <fieldset className="faces">
        <legend>{t.face}</legend>
        {([...Object.keys(faces), ...(list.own ? ['own'] : [])] as FaceKey[]).map((key) => (
          <label key={key} className="check">
            <input
              type="radio"
              name="face"
              value={key}
              checked={list.face === key}
              onChange={() => list.setFace(key)}
            />{' '}
            {key === 'own' ? isolate(list.own!.name) : t.faces[key]}
          </label>
        ))}
        <label className="plain-link">
          {t.ownFont}
          <input
            type="file"
            accept=".otf,.ttf,.woff,.woff2"
            className="visually-hidden"
            onChange={(e) => void list.openOwn(e.target.files?.[0])}
            data-testid="own-font"
          />
        </label>
        <p className="quiet small">{t.private}</p>
      </fieldset>
      <div className="line-up">
        <BoxField label={t.wide(unit)} value={list.wide} onChange={list.setWide} />
        <BoxField label={t.high(unit)} value={list.high} onChange={list.setHigh} />
      </div>
      <label className="check">
        <input type="checkbox" checked={list.oneSize} onChange={(e) => list.setOneSize(e.target.checked)} /> {t.oneSize}
      </label>
      <label className="check">
        <input type="checkbox" checked={list.join} onChange={(e) => list.setJoin(e.target.checked)} /> {t.join}
      </label>
      <label>
        {t.film}
        <FilmSelect films={films} film={film} onChoose={list.setFilm} />
      </label>
    </div>
  );
}

/** A side of the box, as it is typed. */
function BoxField({ label, value, onChange }: { label: string; value: string; onChange: (typed: string) => void }) {
  return (
    <label>
      {label}
      <input
        className="plain-field short"
        inputMode="decimal"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}
