import Button, { type ButtonProps } from '@mui/material/Button';
import { Link, type LinkProps } from 'react-router';

/** A link that looks like a button: it goes somewhere, so it is a link to keyboard and screen reader. */
export function GoButton({ to, ...rest }: Omit<ButtonProps, 'href'> & Pick<LinkProps, 'to'>) {
  return <Button component={Link} to={to} {...rest} />;
}
