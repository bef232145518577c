import Button from '@mui/material/Button';
import type { Thing } from '#work/answer/editable.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field, SelectField } from '../../ui/base/Field.tsx';
import { isolate, typedLength } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { CatalogueFields } from '../../ui/vinyls/CatalogueFields.tsx';
import { HexField } from '../../ui/vinyls/HexField.tsx';
import { PieceFields } from '../../ui/vinyls/PieceFields.tsx';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import { BladeFields } from '../../ui/workshop/BladeFields.tsx';
import { MatFields, PressFields } from '../../ui/workshop/MatsAndPresses.tsx';

/** What is said of a thing, to be said right. */
export function SayRight({ thing, seen, answer }: { thing: Thing; seen: string; answer: FormAnswer | undefined }) {
  const t = words.putRight;
  if (thing.kind === 'vinyl')
    return (
      <div>
        <GoButton to={`/vinyls/${thing.id}/about`} variant="contained">
          {t.about}
        </GoButton>
      </div>
    );
  return (
    <>
      {(thing.kind === 'coupon' || thing.kind === 'cut') && (
        <div>
          <GoButton
            to={thing.kind === 'cut' ? `/cuts/${thing.id}` : `/coupons/${thing.id}/result#grades`}
            variant="contained"
          >
            {t.grades[thing.kind]}
          </GoButton>
        </div>
      )}
      <WriteForm what="save" seen={seen} className="form" noValidate>
        <Fields thing={thing} answer={answer} />
        <div>
          <Button type="submit" variant={'colours' in thing && thing.kind !== 'piece' ? 'outlined' : 'contained'}>
            {t.save}
          </Button>
        </div>
      </WriteForm>
    </>
  );
}

function Fields({ thing, answer }: { thing: Thing; answer: FormAnswer | undefined }) {
  const t = words.putRight;
  const unit = useLengthUnit();
  const name = <Field name="name" label={t.name} answer={answer} initial={thing.name} autoComplete="off" />;
  switch (thing.kind) {
    case 'batch':
      return name;
    case 'cutter':
      return (
        <>
          {name}
          <Field
            name="width"
            label={t.cutsWide(unit)}
            answer={answer}
            initial={thing.widthUm === undefined ? '' : typedLength(thing.widthUm, unit)}
            inputMode="decimal"
            autoComplete="off"
          />
        </>
      );
    case 'colour':
      return (
        <div className="pair">
          <Field name="colour" label={t.name} answer={answer} initial={thing.name} autoComplete="off" />
          <HexField hex={answer?.values.hex ?? thing.hex} />
        </div>
      );
    case 'blade':
      return (
        <>
          {name}
          <BladeFields answer={answer} blade={thing} />
        </>
      );
    case 'mat':
      return (
        <div className="pair">
          <MatFields answer={answer} mat={thing} />
        </div>
      );
    case 'press':
      return (
        <div className="pair">
          <PressFields answer={answer} press={{ ...thing, kind: thing.is }} />
        </div>
      );
    case 'piece':
      return <PieceFields answer={answer} colours={thing.colours} colour={thing.piece.colourId} piece={thing.piece} />;
    case 'type':
      return (
        <>
          <Field name="word" label={words.ownType.word} answer={answer} initial={thing.type.word} autoComplete="off" />
          <CatalogueFields fields={thing.type.fields} answer={answer} />
        </>
      );
    case 'coupon':
    case 'cut':
      return (
        <>
          <SelectField
            name="colour"
            label={t.colourCut}
            answer={answer}
            initial={thing.colour ?? ''}
            options={[['', t.noColour] as const, ...thing.colours.map((c) => [c.id, isolate(c.name)] as const)]}
          />
          <SelectField
            name="vinyl"
            label={t.vinylCut}
            answer={answer}
            initial={thing.vinyl}
            options={thing.vinyls.map((v) => [v.id, isolate(v.name)] as const)}
          />
        </>
      );
    case 'remark':
      return <Field name="body" label={t.wrote} answer={answer} initial={thing.body} multiline minRows={3} />;
    case 'vinyl':
      return null;
  }
}
