import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { fromWords, RowCamps, standingOf } from '../../ui/answer/VinylRow.tsx';
import { RowStrip } from '../../ui/base/RowStrip.tsx';
import { isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylLine, vinylName, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';

type Layer = Route.ComponentProps['loaderData']['layers'][number];

/** One layer: what it shows, the vinyl it has, and those it could have. */
export function LayerChoice({
  job,
  layer,
  blank,
  number,
  of,
  open,
  search,
  seen,
}: {
  job: string;
  layer: Layer;
  /** The colour of the blank: a layer is seen on it. */
  blank: string;
  number: number;
  of: number;
  open: boolean;
  search: string;
  /** See `WriteForm`. */
  seen: string;
}) {
  const t = words.jobVinyls;
  const { chosen, box } = layer;
  const pad = Math.max(box.width, box.height) * 0.04;
  return (
    <section className="layer-choice" aria-labelledby={`layer-${layer.id}`}>
      <div className="layer-head">
        <svg
          className="layer-art"
          viewBox={`${box.x - pad} ${box.y - pad} ${box.width + 2 * pad} ${box.height + 2 * pad}`}
          width={96}
          height={72}
          aria-hidden="true"
          style={{ background: blank }}
        >
          <path d={layer.d} fill={chosen?.colour?.hex ?? layer.drawn} />
        </svg>
        <div>
          <h2 id={`layer-${layer.id}`} className="section-word">
            {t.layer(number)} {number === 1 && of > 1 && <span className="quiet">{t.lowest}</span>}
          </h2>
          {chosen && (
            <p className="layer-chosen" data-testid="chosen">
              <Swatch type={chosen.type} hex={vinylHex(chosen)} size={32} /> <strong>{vinylTitle(chosen)}</strong>{' '}
              <span className={`verdict ${chosen.suits}`}>{t.verdict[chosen.suits]}</span>
            </p>
          )}
        </div>
        {chosen && !open && (
          <Link to={`?layer=${layer.id}`} preventScrollReset>
            {t.other}
          </Link>
        )}
      </div>
      {open && (
        <ul className="rows offers">
          {layer.offers.length === 0 && <li className="quiet">{t.none(isolate(search))}</li>}
          {layer.offers.map((o) => (
            <li key={`${o.row.id} ${o.colourId}`}>
              <div className="row row-offer">
                <Swatch type={o.row.type} hex={vinylHex(o.row)} standing={standingOf(o.row)} />
                <div>
                  <div className="row-name">{vinylName(o.row)}</div>
                  <div className="quiet">{[vinylLine(o.row), ...o.words.map((w) => t.words[w])].join(' · ')}</div>
                  <div className={`small verdict ${o.suits}`}>
                    {t.verdict[o.suits]}
                    {o.suits !== 'suits' && `: ${o.reason}`}
                  </div>
                </div>
                <div className="row-strip">
                  {o.row.camps ? (
                    <RowCamps camps={o.row.camps} />
                  ) : (
                    <RowStrip strip={o.row.strip} width={260} height={18} />
                  )}
                  <div className="quiet small">
                    {o.row.standing ? words.standing[standingOf(o.row)] : fromWords(o.row)}
                  </div>
                </div>
                <WriteForm what="choose" seen={seen}>
                  <input type="hidden" name="layer" value={layer.id} />
                  <input type="hidden" name="vinyl" value={o.row.id} />
                  <input type="hidden" name="colour" value={o.colourId ?? ''} />
                  <Button type="submit" aria-label={`${t.choose}: ${vinylTitle(o.row)}`}>
                    {t.choose}
                  </Button>
                </WriteForm>
              </div>
            </li>
          ))}
          <li>
            <Button
              component={Link}
              to={`/vinyls/new?${new URLSearchParams({ job, layer: layer.id, name: search, hex: layer.drawn }).toString()}`}
              variant={layer.offers.length === 0 ? 'contained' : 'text'}
              data-testid="name-it"
            >
              {t.name(search)}
            </Button>
          </li>
        </ul>
      )}
    </section>
  );
}
