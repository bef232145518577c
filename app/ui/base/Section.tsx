import type { ComponentProps, ReactNode } from 'react';

type Props = Omit<ComponentProps<'section'>, 'title' | 'aria-labelledby'> & { id: string; title: ReactNode };

/** A part of a page under a heading that names it, to the eye and to a screen reader. @param id of the heading, one of its kind on the page */
export function Section({ id, title, children, ...rest }: Props) {
  return (
    <section aria-labelledby={id} {...rest}>
      <h2 className="section-word" id={id}>
        {title}
      </h2>
      {children}
    </section>
  );
}
