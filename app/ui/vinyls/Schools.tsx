import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import type { SchoolVoice, Topic } from '#work/vinyls/schools.ts';
import { words } from '../../messages/index.ts';
import { Folded } from '../base/Folded.tsx';
import { isolate } from '../base/format.ts';
import { WriteForm } from '../base/WriteForm.tsx';

type Way = { key: string; title: string; shown: ReactNode };

/**
 * Where crafters go two ways: both side by side, with who and what evidence speaks for each, and which one this person follows.
 * Behind one tap.
 */
export function Schools({
  topic,
  ways,
  voices,
  colour,
}: {
  topic: Topic;
  ways: readonly Way[];
  voices: readonly SchoolVoice[];
  /** The colour that is looked at, to come back to. */
  colour: string | undefined;
}) {
  const t = words.schools;
  if (ways.length < 2) return null;
  return (
    <Folded className="schools" testId={`schools-${topic}`} summary={t[topic]}>
      {() => (
        <div className="school-ways">
          {ways.map((way) => {
            const voice = voices.find((v) => v.way === way.key);
            return (
              <section key={way.key} aria-label={way.title} className={voice?.mine ? 'mine' : undefined}>
                <h3>{way.title}</h3>
                {way.shown}
                <p className="quiet small">
                  {voice ? t.voices(voice.followers, voice.names.map(isolate).join(', ')) : t.nobody}{' '}
                  {voice && voice.cuts > 0 && t.cuts(voice.good, voice.cuts)} {t.source}
                </p>
                <WriteForm what="school" preventScrollReset>
                  <input type="hidden" name="topic" value={topic} />
                  {colour && <input type="hidden" name="colour" value={colour} />}
                  <input type="hidden" name="way" value={voice?.mine ? '' : way.key} />
                  {voice?.mine && (
                    <p style={{ marginBottom: 8 }}>
                      <strong>{t.following}</strong>
                    </p>
                  )}
                  <Button type="submit">{voice?.mine ? t.leave : t.follow}</Button>
                </WriteForm>
              </section>
            );
          })}
        </div>
      )}
    </Folded>
  );
}
