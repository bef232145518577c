import { useRouteLoaderData } from 'react-router';
import type { loader } from '../root.tsx';

/** The unit of length the person reads first. */
export const useLengthUnit = (): 'mm' | 'in' => useRouteLoaderData<typeof loader>('root')?.person?.lengthUnit ?? 'mm';
