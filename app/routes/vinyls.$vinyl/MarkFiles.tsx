import type { Setting } from '#core/controls/index.ts';
import { cutFileKinds } from '#core/cutfile/index.ts';
import { words } from '../../messages/index.ts';

/** The test mark for the margin, as files. */
export function MarkFiles({ vinyl, shown }: { vinyl: { id: string }; shown: Setting }) {
  const t = words.vinyl;
  return (
    <details className="mark-files">
      <summary>{t.mark}</summary>
      <p className="quiet">{t.markWhy}</p>
      <p className="line-up">
        {cutFileKinds.map((kind) => (
          <a
            key={kind}
            href={`/vinyls/${vinyl.id}/mark/${kind}?setting=${encodeURIComponent(JSON.stringify(shown))}`}
            download
          >
            {words.coupon.files[kind]}
          </a>
        ))}
      </p>
    </details>
  );
}
