import { useLocation } from 'react-router';
import { words } from '../../messages/index.ts';
import { GoButton } from '../base/Link.tsx';

/** The way to put a cutter on the bench, and back to the page one came from. */
export function PutOnBench() {
  const { pathname, search } = useLocation();
  const back = pathname === '/' ? '' : `?back=${encodeURIComponent(`${pathname}${search}`)}`;
  return (
    <GoButton to={`/workshop/cutters/new${back}`} variant="contained">
      {words.bench.start}
    </GoButton>
  );
}
