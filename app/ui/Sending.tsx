import { words } from '../messages/index.ts';
import { useOutbox } from './outbox.tsx';

/** Where the grades are right now: sent, waiting here, or refused. */
export function Sending() {
  const { waiting, refused, online, keeps } = useOutbox();
  const t = words.grading;
  const text = !keeps
    ? t.noStorage
    : refused.length > 0
      ? t.refused(refused.length)
      : waiting.length === 0
        ? t.kept
        : online
          ? t.waiting(waiting.length)
          : t.offline(waiting.length);
  const state = !keeps || refused.length > 0 ? 'bad' : waiting.length > 0 ? 'waiting' : 'sent';
  return (
    <span
      role="status"
      data-testid="sending"
      data-state={state}
      style={state === 'sent' ? undefined : { color: 'var(--ink)', fontWeight: 700 }}
    >
      {text}
    </span>
  );
}
