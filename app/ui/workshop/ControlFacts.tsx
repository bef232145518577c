import type { SettingPart } from '#core/controls/index.ts';

/** Rows of a `facts` list: each control of a setting in the cutter's own words. */
export function ControlFacts({ parts }: { parts: SettingPart[] }) {
  return parts.map((part) => (
    <div key={part.key}>
      <dt>{part.word}</dt>
      <dd>
        {part.note ? `${part.note}, ` : ''}
        {part.value}
        {part.unit && ` ${part.unit}`}
      </dd>
    </div>
  ));
}
