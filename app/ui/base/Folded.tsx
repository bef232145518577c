import { useEffect, useRef, useState, type ReactNode } from 'react';

type Props = {
  summary: ReactNode;
  /** Whether it lies open from the start. */
  open?: boolean;
  className?: string;
  testId?: string;
  children: () => ReactNode;
};

/** What lies behind one tap: drawn once it is opened, so that no page carries what nobody asked for. */
export function Folded({ summary, open = false, className, testId, children }: Props) {
  const [opened, setOpened] = useState(open);
  const fold = useRef<HTMLDetailsElement>(null);
  // Opened before the page came alive.
  useEffect(() => setOpened((was) => was || fold.current!.open), []);
  return (
    <details
      ref={fold}
      open={open}
      className={className}
      data-testid={testId}
      onToggle={(e) => e.currentTarget.open && setOpened(true)}
    >
      <summary>{summary}</summary>
      {(opened || open) && children()}
    </details>
  );
}
