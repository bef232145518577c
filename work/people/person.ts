import * as store from '#store/people/people.ts';

export type Person = store.PersonRow & { steward?: boolean };

export const NOBODY = '00000000-0000-0000-0000-000000000000';
