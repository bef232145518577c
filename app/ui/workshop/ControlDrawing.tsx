import { useId } from 'react';
import {
  describeLimits,
  formatPosition,
  limitsOf,
  listPlace,
  type Axis,
  type DialAxis,
  type ListAxis,
} from '#core/controls/index.ts';
import { unknownKind } from '#core/units/index.ts';

type Props = { axis: Axis; position: number; size?: number };

/** A dial as it sits on the machine: its stops round three quarters of a circle, the pointer where it is to stand. */
function Dial({ axis, position, size = 220 }: { axis: DialAxis; position: number; size?: number }) {
  const { min, max } = limitsOf(axis);
  const perStop = axis.halves ? 2 : 1;
  const angle = (p: number) => ((-135 + (270 * (p - min)) / (max - min)) * Math.PI) / 180;
  const at = (p: number, r: number) => [110 + r * Math.sin(angle(p)), 112 - r * Math.cos(angle(p))] as const;
  const places = Array.from({ length: max - min + 1 }, (_, i) => min + i);
  const [px, py] = at(position, 50);
  return (
    <svg
      viewBox="0 0 220 214"
      width={size}
      role="img"
      aria-label={`${axis.word} at ${formatPosition(axis, position)}`}
      style={{ maxWidth: '100%', display: 'block' }}
    >
      <circle cx="110" cy="112" r="62" fill="var(--sheet)" stroke="var(--edge)" strokeWidth="2" />
      {places.map((p) => {
        const whole = p % perStop === 0;
        const [x1, y1] = at(p, 68);
        const [x2, y2] = at(p, whole || p === position ? 79 : 73);
        const [tx, ty] = at(p, 94);
        const here = p === position;
        return (
          <g key={p}>
            <path
              d={`M${x1} ${y1}L${x2} ${y2}`}
              stroke={here ? 'var(--ink)' : 'var(--edge)'}
              strokeWidth={here ? 5 : whole ? 2.5 : 1.5}
            />
            {whole && (
              <text
                x={tx}
                y={ty + 6}
                textAnchor="middle"
                fontSize={here ? 22 : 17}
                fontWeight={here ? 800 : 500}
                fill={here ? 'var(--ink)' : 'var(--muted)'}
                fontFamily="var(--text)"
              >
                {axis.stops[p / perStop]}
              </text>
            )}
          </g>
        );
      })}
      <path d={`M110 112L${px} ${py}`} stroke="var(--ink)" strokeWidth="9" strokeLinecap="round" />
      <circle cx="110" cy="112" r="11" fill="var(--ink)" />
    </svg>
  );
}

/** A list as it stands on the machine's screen: the entry to choose between its neighbours, and which pressure. */
function List({ axis, position }: { axis: ListAxis; position: number }) {
  const { entry, modifier } = listPlace(axis, position);
  const from = Math.max(0, Math.min(entry - 1, axis.entries.length - 3));
  return (
    <div className="control-list" role="img" aria-label={`${axis.word}: ${formatPosition(axis, position)}`}>
      <ul aria-hidden="true">
        {axis.entries.slice(from, from + 3).map((e, i) => (
          <li key={e.name} className={from + i === entry ? 'chosen' : undefined}>
            {e.name}
          </li>
        ))}
      </ul>
      {axis.modifier && (
        <div className="control-modifier" aria-hidden="true">
          <span className="quiet">{axis.modifier.word}</span>
          {axis.modifier.names.map((name, i) => (
            <span key={name} className={i === modifier ? 'chosen' : undefined}>
              {name}
            </span>
          ))}
        </div>
      )}
    </div>
  );
}

/** A control drawn the way the cutter has it. Numbers need no drawing: they are set as they are read. */
function ControlDrawing({ axis, position, size }: Props) {
  switch (axis.kind) {
    case 'dial':
      return <Dial axis={axis} position={position} {...(size ? { size } : {})} />;
    case 'list':
      return <List axis={axis} position={position} />;
    case 'number':
      return null;
    default:
      return unknownKind(axis);
  }
}

/** The number, stop or entry to set, large enough for arm's length, with the control it is set on. */
export function ToSet({
  axis,
  position,
  sure = true,
  testId,
}: {
  axis: Axis;
  position: number;
  sure?: boolean;
  testId?: string;
}) {
  const id = useId();
  const said = formatPosition(axis, position);
  return (
    <div className="to-set">
      <div className="big-line">
        <span className={said.length > 5 ? 'big wordy' : 'big'} id={id} data-testid={testId}>
          {sure ? said : `~${said}`}
        </span>
        {axis.kind !== 'list' && (
          <span style={{ paddingBottom: 8 }}>
            <span style={{ fontSize: '1.25rem' }}>{axis.word}</span>
            <br />
            <span className="quiet">{describeLimits(axis)}</span>
          </span>
        )}
      </div>
      <ControlDrawing axis={axis} position={position} size={190} />
    </div>
  );
}
