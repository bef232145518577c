import { useState } from 'react';

type Props = {
  label: string;
  accept: string;
  problem: string | undefined;
  help?: string;
  /** The most bytes it may have, and what is said above that: before anything is sent, since the server would only cut it off. */
  most: { bytes: number; says: string };
};

/** A file to choose, with what is wrong with it next to it, or else what it may be. */
export function FileField({ label, accept, problem, help, most }: Props) {
  const [large, setLarge] = useState(false);
  const wrong = large ? most.says : problem;
  return (
    <div>
      <label htmlFor="file" style={{ fontWeight: 600, display: 'block', marginBottom: 8 }}>
        {label}
      </label>
      <input
        id="file"
        name="file"
        type="file"
        accept={accept}
        aria-describedby={wrong ? 'file-problem' : help ? 'file-help' : undefined}
        className="file"
        onChange={(e) => {
          const tooLarge = (e.currentTarget.files?.[0]?.size ?? 0) > most.bytes;
          setLarge(tooLarge);
          e.currentTarget.setCustomValidity(tooLarge ? most.says : '');
        }}
      />
      {wrong ? (
        <p className="error-text" id="file-problem" role="alert">
          {wrong}
        </p>
      ) : (
        help && (
          <p className="quiet small" id="file-help">
            {help}
          </p>
        )
      )}
    </div>
  );
}
