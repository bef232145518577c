import Button from '@mui/material/Button';
import { useId } from 'react';
import { parseDecimal } from '#core/units/index.ts';
import { words } from '../../messages/index.ts';

type Props = {
  name: string;
  label: string;
  value: string;
  unit: 'mm' | 'in';
  problem: string | undefined;
  onChange: (value: string) => void;
  /** It is not asked for just now: its value goes along. */
  kept?: boolean;
};

/** A length with a button on either side: a quarter inch, or five millimetres, a tap. */
export function Stepper({ name, label, value, unit, problem, onChange, kept }: Props) {
  const id = useId();
  if (kept) return <input type="hidden" name={name} value={value} />;
  const step = unit === 'in' ? 0.25 : 5;
  const by = (sign: number) => {
    const now = parseDecimal(value) ?? 0;
    // On the grid of steps: 10.3 and a tap more is 10.5.
    const next = sign > 0 ? Math.floor(now / step + 1e-6) + 1 : Math.ceil(now / step - 1e-6) - 1;
    onChange(String(Number(Math.max(step, next * step).toFixed(3))));
  };
  return (
    <div className="stepper">
      <label htmlFor={id}>
        {label}, {unit}
      </label>
      <div className={problem ? 'stepper-box bad' : 'stepper-box'}>
        <Button type="button" variant="text" onClick={() => by(-1)} aria-label={`${label}: ${words.jobSize.smaller}`}>
          −
        </Button>
        <input
          id={id}
          name={name}
          value={value}
          inputMode="decimal"
          autoComplete="off"
          onChange={(e) => onChange(e.target.value)}
          aria-invalid={!!problem}
          aria-describedby={problem ? `${id}-problem` : undefined}
        />
        <Button type="button" variant="text" onClick={() => by(1)} aria-label={`${label}: ${words.jobSize.larger}`}>
          +
        </Button>
      </div>
      {problem && (
        <p className="error-text" id={`${id}-problem`}>
          {problem}
        </p>
      )}
    </div>
  );
}
