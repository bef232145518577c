import { checkLayer, troubleFreeUm } from '#core/artwork/index.ts';
import type { CheckFilm } from '#work/jobs/check.ts';
import type { NameDrawn } from '../../../workers/lettering.worker.ts';
import { words } from '../../messages/index.ts';
import { sayLength } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';

type JudgedName = ReturnType<typeof judge>;
type Props = { names: readonly JudgedName[]; box: { width: number; height: number }; hex: string };

/** What is to be said of a name in a film at its size. */
export function judge(name: NameDrawn, film: CheckFilm) {
  if ('wrong' in name) return { name, good: false, faults: 0, from: 0 };
  const [layer] = name.artwork.layers;
  const { faults } = checkLayer(name.artwork, layer!, film.needs, name.widthUm, film.slow);
  const from = troubleFreeUm(name.artwork, [{ layer: layer!, film: film.needs }]);
  return { name, good: faults.length === 0 && name.missing.length === 0, faults: faults.length, from };
}

/** Each name in its box, as large as it will be beside the others, with whether it cuts and weeds. */
export function NameList({ names, box, hex }: Props) {
  const t = words.names;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => sayLength(um, unit, style);
  return (
    <ol className="name-list" aria-label={t.list}>
      {names.map(({ name, good, faults, from }, i) => (
        <li key={`${i} ${name.says}`} data-good={good}>
          <svg viewBox={`0 0 ${box.width} ${box.height}`} role="img" aria-label={name.says}>
            {'artwork' in name && (
              <path
                d={name.artwork.layers[0]!.d}
                fill={hex}
                transform={`translate(${(box.width - name.widthUm) / 2} ${(box.height - (name.widthUm * name.artwork.height) / name.artwork.width) / 2}) scale(${name.widthUm / name.artwork.width})`}
              />
            )}
          </svg>
          <span>
            <strong>{name.says}</strong>{' '}
            <span className={good ? 'quiet' : 'error-text'}>
              {'wrong' in name
                ? t.noLetters
                : name.missing.length > 0
                  ? t.missing(name.missing.join(' '))
                  : faults > 0
                    ? from === undefined
                      ? t.never
                      : t.tooFine(say(name.widthUm), say(Math.ceil(from / 1000) * 1000))
                    : t.fine(say(name.widthUm), words.plural(name.outlines, 'piece'))}
            </span>
          </span>
        </li>
      ))}
    </ol>
  );
}
