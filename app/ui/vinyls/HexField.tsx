import { words } from '../../messages/index.ts';

/** What a colour looks like, chosen with the device's own picker. */
export const HexField = ({ hex, id = 'hex' }: { hex: string; id?: string }) => (
  <div className="hex-field">
    <label htmlFor={id}>{words.catalogue.hex}</label>
    <input id={id} className="hex" name="hex" type="color" defaultValue={hex} />
  </div>
);
