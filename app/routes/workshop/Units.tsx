import Button from '@mui/material/Button';
import { useColorScheme } from '@mui/material/styles';
import { words } from '../../messages/index.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** Millimetres or inches, degrees Celsius or Fahrenheit. */
export function Units({ person }: { person: { lengthUnit: 'mm' | 'in'; temperatureUnit: 'C' | 'F' } }) {
  const t = words.workshop;
  return (
    <WriteForm what="units" action="/units">
      <fieldset>
        <legend className="section-word">{t.units}</legend>
        <div style={{ display: 'flex', gap: 12, flexWrap: 'wrap' }}>
          {(['mm', 'in'] as const).map((u) => (
            <label className="choice" key={u}>
              <input type="radio" name="length" value={u} defaultChecked={person.lengthUnit === u} />
              <span>{u}</span>
            </label>
          ))}
          {(['C', 'F'] as const).map((u) => (
            <label className="choice" key={u}>
              <input type="radio" name="temperature" value={u} defaultChecked={person.temperatureUnit === u} />
              <span>°{u}</span>
            </label>
          ))}
          <Button type="submit">{t.saveUnits}</Button>
        </div>
      </fieldset>
    </WriteForm>
  );
}

/** Light, dark, or as the device says. Kept on this device. */
export function Look() {
  const { mode, setMode } = useColorScheme();
  const t = words.workshop;
  return (
    <fieldset>
      <legend className="section-word">{t.look}</legend>
      <div style={{ display: 'flex', gap: 12, flexWrap: 'wrap' }}>
        {(
          [
            ['system', t.lookSystem],
            ['light', t.lookLight],
            ['dark', t.lookDark],
          ] as const
        ).map(([value, name]) => (
          <label className="choice" key={value}>
            <input type="radio" name="look" value={value} checked={mode === value} onChange={() => setMode(value)} />
            <span>{name}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
