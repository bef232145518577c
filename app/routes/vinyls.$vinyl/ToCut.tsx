import type { SchoolVoice } from '#work/vinyls/schools.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { Link } from 'react-router';
import { formatSetting, strengthAxis, formatPosition } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { words } from '../../messages/index.ts';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { capital, isolate } from '../../ui/base/format.ts';
import { howTranslated, SplitNotice } from '../../ui/shelf/Translated.tsx';
import { Schools } from '../../ui/vinyls/Schools.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import { WantedNav } from './Head.tsx';
import { MarkFiles } from './MarkFiles.tsx';
import { KeptNumber, AgedBlade, Retune, Facts } from './Facts.tsx';
import { type OnBench, shownResult, shownSetting, CHECK_UNDER } from './shown.ts';
import { Section } from '../../ui/base/Section.tsx';

/** What to set, how sure that is, and the other controls. */
export function ToCut({
  vinyl,
  bench,
  inHand,
  colours,
  schools,
  planAt,
}: {
  vinyl: Vinyl;
  bench: OnBench;
  inHand: string | undefined;
  colours: readonly { id: string; name: string; hex: string }[];
  schools: { cut: SchoolVoice[] };
  planAt: (wanted: string) => string;
}) {
  const t = words.vinyl;
  const { behaviour } = vinyl;
  const cells = bench.result.evidence.cells;
  const { dots, kept, cutter, wanted } = bench;
  const result = shownResult(bench);
  const others = cells === 0 ? bench.shared : undefined;
  const translated = cells === 0 && !others ? bench.translated : undefined;
  const shown = shownSetting(bench);
  const axis = strengthAxis(cutter.model);
  const domain = stripDomain(
    axis,
    [result.summary],
    [...dots.map((d) => d.position), ...(kept ? [kept.controls.steps[axis.key]!] : [])],
  );
  const position = shown.steps[axis.key]!;
  const advised = result.summary.recommended?.position;
  const keptPosition = kept?.controls.steps[axis.key];
  // Inside the window one number is as good as the next: only one outside it is worth a word.
  const { window: clean } = result.summary;
  const keptDiffers =
    cells > 0 &&
    keptPosition !== undefined &&
    advised !== undefined &&
    (clean ? keptPosition < clean.low || keptPosition > clean.high : keptPosition !== advised);
  const [one, ...further] = bench.differ;
  const other = one && further.find((o) => o.position !== one.position);
  const nameOf = (id: string) => isolate(colours.find((c) => c.id === id)?.name ?? '');
  const differs =
    one &&
    other &&
    t.colourDiffers(
      nameOf(one.colour),
      formatPosition(axis, one.position),
      nameOf(other.colour),
      formatPosition(axis, other.position),
    );
  const rest = formatSetting(cutter.model, shown).filter((p) => p.key !== axis.key);
  // Once the blade has aged, a number that was sure may no longer be.
  const worn = bench.drift !== undefined && result.summary.best.chance < CHECK_UNDER;
  return (
    <Section id="cut" title={t.cut}>
      <WantedNav wanted={wanted} inHand={inHand} />
      <ToSet axis={axis} position={position} sure={cells > 0 || !!kept || !!others || !!translated} testId="to-set" />
      <div style={{ margin: '20px 0 12px' }}>
        <WindowStrip axis={axis} result={result} domain={domain} dots={dots} mark={position} scale />
      </div>
      {translated ? <p data-testid="how">{howTranslated(translated)}</p> : <p>{result.sentence}</p>}
      {translated && (
        <p className="quiet">
          {words.card.between(formatPosition(axis, translated.low), formatPosition(axis, translated.high))}
        </p>
      )}
      {cells === 0 && !translated && <p className="quiet">{others ? t.othersMark : t.draftMark}</p>}
      {kept?.why && (
        <p className="proof" data-testid="proof">
          {capital(kept.why)}.
        </p>
      )}
      {bench.split && <SplitNotice split={bench.split} model={cutter.model} />}
      {kept?.source && (
        <p>
          {t.adopted(isolate(kept.source.author))}{' '}
          {kept.source.address && <Link to={`/cards/${kept.source.address}`}>{t.toCard}</Link>}
        </p>
      )}
      {kept && <KeptNumber kept={kept} differs={keptDiffers ? keptPosition : undefined} axis={axis} />}
      {differs && <p data-testid="colours-differ">{differs}</p>}
      {bench.drift && <AgedBlade axis={axis} drift={bench.drift} />}
      {cells > 0 && (bench.otherBlade || worn) && (
        <Retune otherBlade={bench.otherBlade} chance={result.summary.best.chance} planAt={planAt(wanted)} />
      )}
      {bench.blade === 'soon' && <p>{t.bladeSoon}</p>}
      {bench.blade === 'over' && <p>{t.bladeOver}</p>}
      <Facts rest={rest} behaviour={behaviour} bench={bench} />
      {bench.bladed && <MarkFiles vinyl={vinyl} shown={shown} />}
      <Schools
        topic="cut"
        voices={schools.cut}
        colour={inHand}
        ways={behaviour.cutSchools.map((s) => ({
          key: s.key,
          title: s.says,
          shown: <p>{s.because}</p>,
        }))}
      />
    </Section>
  );
}
