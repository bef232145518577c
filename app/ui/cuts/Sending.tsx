import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { useOutbox } from '../base/outbox.tsx';

/** Where the grades are right now: sent, waiting here, or refused. */
export function Sending() {
  const { waiting, refused, online, signedOut, keeps } = useOutbox();
  const t = words.grading;
  const text = !keeps
    ? t.noStorage
    : refused.length > 0
      ? t.refused(refused.length)
      : waiting.length === 0
        ? t.kept
        : signedOut
          ? t.signIn(waiting.length)
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

/** What the server will never take, and why; nothing is dropped unseen. */
export function Refused() {
  const { refused, forgetRefused } = useOutbox();
  if (refused.length === 0) return null;
  const reasons = [...new Set(refused.map((r) => r.why))];
  return (
    <div className="notice bad" role="alert">
      <strong>{words.grading.refused(refused.length)}</strong>
      {reasons.map((why) => (
        <p key={why}>{why}</p>
      ))}
      <Button variant="text" onClick={forgetRefused}>
        {words.grading.forget}
      </Button>
    </div>
  );
}
