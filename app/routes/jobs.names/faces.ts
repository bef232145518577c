import lilita from '@fontsource/lilita-one/files/lilita-one-latin-400-normal.woff2?url';
import lilitaMore from '@fontsource/lilita-one/files/lilita-one-latin-ext-400-normal.woff2?url';
import pacifico from '@fontsource/pacifico/files/pacifico-latin-400-normal.woff2?url';
import pacificoMore from '@fontsource/pacifico/files/pacifico-latin-ext-400-normal.woff2?url';
import bricolage from '@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-standard-normal.woff2?url';
import bricolageMore from '@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-ext-standard-normal.woff2?url';
import { get, set } from 'idb-keyval';

/** Faces that ship with the product, all under the SIL Open Font License; and one of the crafter's own, which stays in this browser. */
export const faces = {
  script: [pacifico, pacificoMore],
  round: [lilita, lilitaMore],
  plain: [bricolage, bricolageMore],
} as const;
export type FaceKey = keyof typeof faces | 'own';

type Own = { name: string; bytes: ArrayBuffer };
const KEPT = 'versipel_font';

/** The crafter's own font, where one was chosen in this browser; nothing where the browser keeps nothing. */
export const ownFont = (): Promise<Own | undefined> => get<Own>(KEPT).catch(() => undefined);
export const keepOwnFont = (own: Own): Promise<void> => set(KEPT, own).catch(() => undefined);

const fetched = new Map<string, Promise<ArrayBuffer>>();
const load = (url: string) => {
  const known = fetched.get(url);
  if (known) return known;
  const file = fetch(url).then((answer) => {
    if (!answer.ok) throw new Error(`a face that ships with the product answered ${answer.status}`);
    return answer.arrayBuffer();
  });
  fetched.set(url, file);
  file.catch(() => fetched.delete(url));
  return file;
};

/** The files of a face; undefined where no font of one's own was chosen yet. */
export async function filesOf(key: FaceKey, own: Own | undefined): Promise<ArrayBuffer[] | undefined> {
  if (key === 'own') return own && [own.bytes];
  return Promise.all(faces[key].map(load));
}
export type { Own };
