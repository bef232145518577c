import type { FormAnswer } from '../../server/enter.server.ts';

type Props = {
  name: string;
  legend: string;
  answer: FormAnswer | undefined;
  initial: string;
  /** Value, name, what it means. */
  options: readonly (readonly [string, string, string])[];
};

/** One of a few, each said in words: large enough for a thumb. */
export function Choices({ name, legend, answer, initial, options }: Props) {
  const problem = answer?.fields[name];
  const chosen = answer?.values[name] ?? initial;
  return (
    <fieldset>
      <legend>{legend}</legend>
      <div className="choices">
        {options.map(([value, label, says]) => (
          <label className="choice" key={value}>
            <input type="radio" name={name} value={value} defaultChecked={value === chosen} />
            <span>
              <strong>{label}</strong>
              <br />
              <span className="quiet">{says}</span>
            </span>
          </label>
        ))}
      </div>
      {problem && <p className="error-text">{problem}</p>}
    </fieldset>
  );
}
