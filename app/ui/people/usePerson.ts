import type { NumberStyle } from '#core/units/index.ts';
import { useRouteLoaderData } from 'react-router';
import type { loader } from '../../root.tsx';

/** Who is here; undefined for somebody who has done nothing yet. */
export const usePerson = () => useRouteLoaderData<typeof loader>('root')?.person;

/** The unit of length the person reads first. */
export const useLengthUnit = (): 'mm' | 'in' => usePerson()?.lengthUnit ?? 'mm';
/** How the person writes what lies between whole numbers. */
export const useNumberStyle = (): NumberStyle => usePerson()?.numberStyle ?? 'point';
/** The zone in which the person's days begin. */
export const useZone = (): string => usePerson()?.zone ?? 'UTC';
/** The unit of heat the person reads first; the other one always stands beside it. */
export const useTemperatureUnit = (): 'C' | 'F' => usePerson()?.temperatureUnit ?? 'C';
