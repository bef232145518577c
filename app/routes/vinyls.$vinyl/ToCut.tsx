import type { SchoolVoice } from '#work/vinyls/schools.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { formatSetting, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { words } from '../../messages/index.ts';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { Schools } from '../../ui/vinyls/Schools.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import { Section } from '../../ui/base/Section.tsx';
import { WantedNav } from './Head.tsx';
import { MarkFiles } from './MarkFiles.tsx';
import { SetRest } from './SetRest.tsx';
import { KeepLine } from './KeepLine.tsx';
import { Trust } from './Trust.tsx';
import { Camps } from './Camps.tsx';
import { Why } from './Why.tsx';
import { type OnBench, shownResult, shownSetting } from './shown.ts';
import { capitalise } from '#core/units/index.ts';

/** One answer: what to set now, how far it can be trusted and what to do next; the reasons a tap below. */
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
  const { dots, cutter, wanted, answer } = bench;
  const result = shownResult(bench);
  const shown = shownSetting(bench);
  const axis = strengthAxis(cutter.model);
  const rest = formatSetting(cutter.model, shown).filter((p) => p.key !== axis.key);
  const { position, camps } = answer;
  return (
    <Section id="cut" title={t.cut} className="cut-answer">
      <WantedNav wanted={wanted} inHand={inHand} />
      {camps ? (
        <Camps vinyl={vinyl} bench={bench} camps={camps} planAt={planAt(wanted)} />
      ) : position !== undefined ? (
        <>
          <ToSet axis={axis} position={position} sure={answer.from !== 'type'} testId="to-set" />
          <SetRest rest={rest} behaviour={behaviour} bench={bench} />
          <KeepLine vinyl={vinyl.id} bench={bench} inHand={inHand} />
          <div className="answer-strip">
            <WindowStrip
              axis={axis}
              result={result}
              domain={stripDomain(axis, [result.summary], [...dots.map((d) => d.position), position])}
              dots={dots}
              mark={position}
              scale
            />
          </div>
          <Trust vinyl={vinyl.id} bench={bench} planAt={planAt(wanted)} colours={colours} />
        </>
      ) : (
        <p className="lede">{t.noNumber}</p>
      )}
      <Why bench={bench} colours={colours} />
      {bench.bladed && <MarkFiles vinyl={vinyl} shown={shown} />}
      <Schools
        topic="cut"
        voices={schools.cut}
        colour={inHand}
        ways={behaviour.cutSchools.map((s) => ({
          key: s.key,
          title: capitalise(s.says),
          shown: <p>{s.because ? `${capitalise(s.because)}.` : words.schools.noReason}</p>,
        }))}
      />
    </Section>
  );
}
