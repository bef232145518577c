import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { filmOn, tooLarge, type Asked } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { isolate, sayLength, saySize, stepDown } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Size } from './size.ts';

type Layer = Size['layers'][number];

/** A layer as one round of it is cut, with the design this wide. */
const askedAt = (size: Size, { asked, rounds }: Layer, widthUm: number): Asked | undefined => {
  const scale = widthUm / size.design.widthUm;
  return (
    asked && {
      ...asked,
      design: { width: asked.design.width * scale, height: asked.design.height * scale },
      copies: Math.ceil(asked.copies / rounds),
    }
  );
};

/** The layers that do not go under the blade at once, each with what decides that. */
export const layersTooLarge = (size: Size, widthUm: number) =>
  size.layers.flatMap((layer) => {
    const asked = askedAt(size, layer, widthUm);
    const large = asked && tooLarge(asked, size.under, size.under.others);
    return large ? [{ layer, asked, large }] : [];
  });

/** Whether it goes on the mat: one message that says what is too large for what, and every way out of it; how it lies where it is turned. */
export function OnMat({
  size,
  large: all,
  widthUm,
  onWidth,
}: {
  size: Size;
  large: ReturnType<typeof layersTooLarge>;
  widthUm: number;
  onWidth: (um: number) => void;
}) {
  const t = words.jobSize.onMat;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const worst = all[0];
  if (!worst) return <Lies size={size} widthUm={widthUm} />;
  const { layer, asked, large } = worst;
  const name = layer.vinyl ? vinylTitle(layer.vinyl) : '';
  const say = ({ width, height }: { width: number; height: number }) => saySize(width, height, unit, style);
  const { widthUm: w, lengthUm: l } = large.bed;
  const bed = l === undefined ? sayLength(w, unit, style) : say({ width: w, height: l });
  const smaller = large.share === undefined ? undefined : stepDown(widthUm * large.share, unit);
  const rounds = large.rounds === undefined ? undefined : large.rounds * layer.rounds;
  return (
    <div className="notice bad" role="alert" data-testid="too-large">
      <p>
        <strong>
          {large.fits === 0 ? t.tooLarge(name, say(asked.design)) : t.tooMany(name, asked.copies, large.fits)}
        </strong>{' '}
        {t.bed[large.by](bed)}
      </p>
      <p className="line-up">
        {rounds !== undefined && (
          <Button type="submit" name="then" value={`rounds ${layer.id} ${rounds}`} variant="contained">
            {t.rounds(rounds)}
          </Button>
        )}
        {large.mats.map((id) => (
          <Button key={id} type="submit" name="then" value={`mat ${id}`}>
            {t.lay(isolate(size.under.others.find((m) => m.id === id)!.name))}
          </Button>
        ))}
        {smaller !== undefined && (
          <>
            <Button onClick={() => onWidth(smaller)}>{words.jobSize.cureDo(sayLength(smaller, unit, style))}</Button>
            {!size.named && (
              <Button type="submit" name="then" value="check">
                {t.split}
              </Button>
            )}
          </>
        )}
        {large.mats.length === 0 && large.by !== 'roll' && (
          <Link to="/workshop" className="plain-link">
            {t.other[large.by]}
          </Link>
        )}
      </p>
    </div>
  );
}

/** How layers lie that fit: in rounds, or turned. */
function Lies({ size, widthUm }: { size: Size; widthUm: number }) {
  const t = words.jobSize.onMat;
  const name = (layer: Layer) => (layer.vinyl ? vinylTitle(layer.vinyl) : '');
  const laid = size.layers.flatMap((layer) => {
    const asked = askedAt(size, layer, widthUm);
    return asked ? [{ layer, asked }] : [];
  });
  const turned = laid.filter(({ asked }) => filmOn(asked, size.under).turned);
  return (
    <>
      {laid
        .filter(({ layer }) => layer.rounds > 1)
        .map(({ layer, asked }) => (
          <p key={layer.id} className="quiet above-8" data-testid="rounds">
            {t.inRounds(name(layer), layer.rounds)}{' '}
            {!tooLarge({ ...asked, copies: asked.copies * layer.rounds }, size.under) && (
              <button type="submit" name="then" value={`rounds ${layer.id} 1`} className="link-button">
                {t.atOnce}
              </button>
            )}
          </p>
        ))}
      {turned.length > 0 && (
        <p className="quiet above-8" data-testid="turned">
          {turned.length === size.layers.length ? t.turned : t.someTurned(turned.map((l) => name(l.layer)).join(', '))}
        </p>
      )}
    </>
  );
}
