import { Link } from 'react-router';

/** Further ways on from a page, as a line of links. */
export function Ways({ label, ways }: { label: string; ways: readonly (readonly [to: string, text: string])[] }) {
  return (
    <nav className="ways" aria-label={label}>
      {ways.map(([to, text]) => (
        <Link key={to} to={to}>
          {text}
        </Link>
      ))}
    </nav>
  );
}
