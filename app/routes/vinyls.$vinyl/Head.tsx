import { cutMirrored } from '#core/vinyls/index.ts';
import type { Standing } from '#core/proof/index.ts';
import { words } from '../../messages/index.ts';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { typeWord, vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { OnBench } from './shown.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { Link } from 'react-router';
import { isolate } from '../../ui/base/format.ts';

/** The colours of a vinyl, to choose the one in hand. */
export function ColourNav({
  colours,
  vinyl,
  bench,
}: {
  colours: readonly { id: string; name: string; hex: string }[];
  vinyl: Vinyl;
  bench: { wanted: string } | undefined;
}) {
  const t = words.vinyl;
  return (
    <nav className="colour-nav" aria-label={t.colours}>
      {colours.map((c) => (
        <Link
          key={c.id}
          to={`?colour=${c.id}${bench ? `&wanted=${bench.wanted}` : ''}`}
          aria-current={c.id === vinyl.colour?.id ? 'true' : undefined}
          preventScrollReset
          replace
        >
          <span className="dab" style={{ background: c.hex }} aria-hidden="true" />
          {isolate(c.name)}
        </Link>
      ))}
    </nav>
  );
}

/** Clean on its carrier, or right through. */
export function WantedNav({ wanted, inHand }: { wanted: string; inHand: string | undefined }) {
  const t = words.vinyl;
  return (
    <nav className="two-ways" aria-label={t.wanted}>
      {(['clean', 'through'] as const).map((w) => (
        <Link
          key={w}
          to={`?wanted=${w}${inHand ? `&colour=${inHand}` : ''}`}
          aria-current={w === wanted ? 'true' : undefined}
          preventScrollReset
          replace
        >
          {t[w]}
        </Link>
      ))}
    </nav>
  );
}

/** What the number rests on, from what the answer itself rests on: the line of trust below it counts the same people. */
function restsOn({ answer, result, shared, translated }: OnBench): string {
  const { cells, coupons } = result.evidence;
  const { tried, cells: counted, others, sameModel, translated: otherModels, type } = words.from;
  if (cells > 0) return `${tried}: ${counted(cells, coupons)}`;
  if (answer.from === 'translated' && translated) return `${others(translated.crafters)}, ${otherModels}`;
  if (shared) return `${others(shared.crafters)}, ${sameModel}`;
  return translated ? `${others(translated.crafters)}, ${otherModels}` : type;
}

/** What vinyl this is, how far it is known, and what to do next. */
export function Head({
  vinyl,
  bench,
  cutForm,
  known,
  planAt,
}: {
  vinyl: Vinyl;
  bench: OnBench | undefined;
  cutForm: React.ReactNode;
  known: boolean;
  planAt: (wanted: string) => string;
}) {
  const t = words.vinyl;
  const cells = bench?.result.evidence.cells ?? 0;
  return (
    <div className="head">
      <Swatch
        type={vinyl.type}
        hex={vinylHex(vinyl)}
        size={92}
        standing={(bench?.kept?.standing as Standing | undefined) ?? (cells > 0 ? 'tried' : 'draft')}
      />
      <div>
        <h1>{vinylTitle(vinyl)}</h1>
        <p className="quiet">
          {typeWord(vinyl)}
          {bench && ` · ${restsOn(bench)}`} · <PutRightLink kind="vinyl" id={vinyl.id} />
        </p>
      </div>
      {bench &&
        (known ? (
          <div className="push cut-bar">
            <p className="small" data-testid="lay">
              {t.lay(words.side[vinyl.behaviour.side].short, cutMirrored(vinyl.behaviour.cutFrom), vinyl.behaviour.mat)}
            </p>
            {cutForm}
          </div>
        ) : bench.answer.camps ? null : (
          <GoButton className="push" to={planAt(bench.wanted)} variant="contained">
            {t.plan}
          </GoButton>
        ))}
    </div>
  );
}
