/** A file to choose, with what is wrong with it next to it, or else what it may be. */
export function FileField({
  label,
  accept,
  problem,
  help,
}: {
  label: string;
  accept: string;
  problem: string | undefined;
  help?: string;
}) {
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
        aria-describedby={problem ? 'file-problem' : help ? 'file-help' : undefined}
        className="file"
      />
      {problem ? (
        <p className="error-text" id="file-problem">
          {problem}
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
