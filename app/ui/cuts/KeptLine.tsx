import { Link } from 'react-router';
import { words } from '../../messages/index.ts';

/** A number is kept: said, with the way to share it. */
export const KeptLine = ({ says, vinyl, wanted }: { says: string; vinyl: string; wanted: string }) => (
  <p className="notice kept-line" data-testid="kept">
    <span>{says}</span> <Link to={`/cards/new?vinyl=${vinyl}&wanted=${wanted}`}>{words.vinyl.shareIt}</Link>
  </p>
);
