import type { CheckFilm } from '#work/jobs/check.ts';
import { isolate } from '../base/format.ts';

/** A film by its key; plain film where none has it. */
export const filmByKey = (films: readonly CheckFilm[], key: string | undefined): CheckFilm =>
  films.find((f) => f.key === key) ?? films.find((f) => f.key === 'smooth')!;

type Props = { films: readonly CheckFilm[]; film: CheckFilm; label?: string; onChoose: (key: string) => void };

/** The film that something is judged for. */
export function FilmSelect({ films, film, label, onChoose }: Props) {
  return (
    <select className="plain-field" aria-label={label} value={film.key} onChange={(e) => onChoose(e.target.value)}>
      {films.map((f) => (
        <option key={f.key} value={f.key}>
          {isolate(f.name)}
        </option>
      ))}
    </select>
  );
}
