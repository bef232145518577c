import { handSchools, handTopics, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { Schools as Voices } from '#work/vinyls/schools.ts';
import { words } from '../../messages/index.ts';
import { Folded } from '../base/Folded.tsx';
import { Schools } from './Schools.tsx';
import { capitalise } from '#core/units/index.ts';

/** What crafters do in several ways beside the number and the press figures, topic by topic, behind one tap. */
export function HandSchools({
  type,
  voices,
  colour,
}: {
  type: VinylTypeKey;
  voices: Voices;
  colour: string | undefined;
}) {
  const schools = handSchools(type);
  const said = handTopics.filter((topic) => voices[topic].some((v) => v.mine)).length;
  return (
    <Folded
      className="hand-schools"
      testId="hand-schools"
      summary={
        <>
          {words.schools.hand}
          {said > 0 && ` · ${words.schools.said(said)}`}
        </>
      }
    >
      {() =>
        handTopics.map((topic) => (
          <Schools
            key={topic}
            topic={topic}
            voices={voices[topic]}
            colour={colour}
            ways={(schools[topic] ?? []).map((s) => ({
              key: s.key,
              title: capitalise(s.says),
              shown: s.because ? <p>{capitalise(s.because)}.</p> : null,
            }))}
          />
        ))
      }
    </Folded>
  );
}
