import type { NumberStyle } from '#core/units/index.ts';
import { useRouteLoaderData } from 'react-router';

/** Who is here, as the root of every page tells it. */
export type Here = {
  id: string;
  name: string;
  guest: boolean;
  lengthUnit: 'mm' | 'in';
  temperatureUnit: 'C' | 'F';
  numberStyle: NumberStyle;
  zone: string;
  formerly: readonly string[];
  email: string | null;
};

/** Who is here; undefined for somebody who has done nothing yet. */
export const usePerson = () => useRouteLoaderData<{ person: Here | undefined }>('root')?.person;

/** The unit of length the person reads first. */
export const useLengthUnit = (): 'mm' | 'in' => usePerson()?.lengthUnit ?? 'mm';
/** How the person writes what lies between whole numbers. */
export const useNumberStyle = (): NumberStyle => usePerson()?.numberStyle ?? 'point';
/** The zone in which the person's days begin. */
export const useZone = (): string => usePerson()?.zone ?? 'UTC';
/** The unit of heat the person reads first; the other one always stands beside it. */
export const useTemperatureUnit = (): 'C' | 'F' => usePerson()?.temperatureUnit ?? 'C';
