import { useEffect, useRef } from 'react';
import { hexKnown } from '#core/catalogue/index.ts';
import { words } from '../../messages/index.ts';

/** What a colour looks like: as it is called in the same form, until somebody chooses with the device's own picker. */
export function HexField({ hex, id = 'hex' }: { hex: string; id?: string }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const { form } = field.current!;
    let picked = false;
    const named = (event: Event) => {
      if (event.target === field.current) picked = true;
      if (!(event.target instanceof HTMLInputElement) || event.target.name !== 'colour' || picked) return;
      const shade = hexKnown(event.target.value);
      if (shade) field.current!.value = shade;
    };
    form?.addEventListener('input', named);
    return () => form?.removeEventListener('input', named);
  }, []);
  return (
    <div className="hex-field">
      <label htmlFor={id}>{words.catalogue.hex}</label>
      <input ref={field} id={id} className="hex" name="hex" type="color" defaultValue={hex} />
    </div>
  );
}
