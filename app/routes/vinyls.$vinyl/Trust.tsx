import { Link } from 'react-router';
import type { Standing } from '#core/proof/index.ts';
import { sayMissing } from '#core/proof/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { Corner } from '../../ui/vinyls/Swatch.tsx';
import { CHECK_UNDER, type OnBench } from './shown.ts';
import { capitalise } from '#core/units/index.ts';

/** How far the number can be trusted, in one line, and the one thing that would help most. */
export function Trust({
  vinyl,
  bench,
  planAt,
  colours,
}: {
  vinyl: string;
  bench: OnBench;
  planAt: string;
  colours: readonly { id: string; name: string }[];
}) {
  const { answer, wanted } = bench;
  const t = words.vinyl.trust;
  const standing = standingOf(bench);
  const next = nextStep(bench, planAt);
  return (
    <div className="trust" data-testid="trust">
      <p>
        <Corner standing={standing} /> <strong>{capitalise(sourceOf(bench, colours))}</strong>{' '}
        {answer.from !== 'type' && answer.chance !== undefined && (
          <span>{t.chance(wanted, Math.min(99, Math.max(1, Math.round(answer.chance * 100))))}</span>
        )}
      </p>
      <p data-testid={next.testId}>
        {next.says} {next.to && <Link to={next.to}>{next.link}</Link>}
        {/* Kept, and nobody else has it yet: one tap from here. */}
        {answer.from === 'kept' &&
          !bench.kept?.source &&
          !bench.card &&
          (standing === 'tried' || standing === 'proven') && (
            <Link className="share-it" to={`/cards/new?vinyl=${vinyl}&wanted=${wanted}`}>
              {words.vinyl.shareIt}
            </Link>
          )}
      </p>
    </div>
  );
}

/** Where the number of a bench card stands. */
const standingOf = ({ kept, answer }: OnBench): Standing =>
  answer.keptBefore === undefined && kept ? (kept.standing as Standing) : answer.from === 'here' ? 'tried' : 'draft';

/** What stands behind the number, in a word or a few. */
function sourceOf(bench: OnBench, colours: readonly { id: string; name: string }[]): string {
  const { answer, kept, shared, translated } = bench;
  const t = words.vinyl.trust;
  if (answer.from === 'kept')
    return kept!.standing === 'draft'
      ? kept!.source
        ? t.adopted
        : kept!.imported
          ? t.imported
          : t.untried
      : (words.cardStanding[kept!.standing as Standing] ?? kept!.standing);
  if (answer.from === 'here') {
    const others = bench.otherColours.map((id) => isolate(colours.find((c) => c.id === id)?.name ?? ''));
    return others.length > 0
      ? t.otherColour(bench.result.evidence.cells, others.join(', '))
      : t.cells(bench.result.evidence.cells);
  }
  if (answer.from === 'others') return `${words.from.others(shared!.crafters)}, ${words.from.sameModel}`;
  if (answer.from === 'translated') return t.translated(translated!.crafters, translated!.models);
  return t.guess;
}

function nextStep(bench: OnBench, planAt: string): { says: string; to?: string; link?: string; testId?: string } {
  const { answer, kept } = bench;
  const t = words.vinyl.trust;
  if (!bench.bladed) return { says: t.noBlade, to: '/workshop', link: t.toWorkshop };
  const check = { to: `${planAt}&mode=retune`, link: t.planThem, testId: 'retune' };
  const cells = { to: `${planAt}&cells=3`, link: t.planThem };
  switch (answer.from) {
    case 'type':
      return { says: t.guessNext, to: planAt, link: words.vinyl.plan };
    case 'others':
    case 'translated':
      return { says: t.othersNext, ...cells };
    case 'kept':
    case 'here': {
      if (answer.from === 'kept' && kept!.standing === 'draft') return { says: t.untriedNext, ...cells };
      if (kept?.standing === 'retired' && answer.keptBefore === undefined) return { says: t.retiredNext, ...cells };
      if (kept?.standing === 'doubted' && answer.keptBefore === undefined) return { says: t.doubtedNext, ...check };
      if (bench.otherBlade) return { says: t.otherBlade, ...check };
      if ((answer.chance ?? 0) < CHECK_UNDER)
        return bench.drift ? { says: t.wornNext, ...check } : { says: t.unsettled, ...cells };
      if (answer.from === 'here')
        return bench.otherColours.length > 0 ? { says: t.colourNext, ...cells } : { says: t.keepNext };
      return kept!.missing ? { says: `${capitalise(sayMissing(kept!.missing))}.` } : { says: t.lift };
    }
  }
}
