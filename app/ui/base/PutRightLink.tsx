import { Link } from 'react-router';
import { words } from '../../messages/index.ts';

/** The way to the page that puts a thing right, puts it away or takes it up again: the last word of the line that names it. */
export const PutRightLink = ({ kind, id, text }: { kind: string; id: string; text?: string }) => (
  <Link className="put-right" to={`/put-right/${kind}/${id}`}>
    {text ?? words.putRight.link}
  </Link>
);
