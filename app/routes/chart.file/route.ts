import type { Access } from '#work/people/permissions.ts';
import { chartOf } from '#work/answer/chart.ts';
import { countAsked } from '#work/people/limits.ts';
import { day } from '../../ui/base/format.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { chartPapers, chartPdf, type ChartPaper } from '../../server/paper/chart.server.ts';
import { pdfAnswer } from '../../server/paper/pdf.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The wall chart as a PDF: chart/a4.pdf or chart/letter.pdf. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const paper = args.params.file.replace(/\.pdf$/, '') as ChartPaper;
  if (!args.params.file.endsWith('.pdf') || !Object.hasOwn(chartPapers, paper))
    throw new Response('No such paper.', { status: 404 });
  const { searchParams, origin } = new URL(args.request.url);
  await countAsked('paper', person, addressOf(args.context));
  const chart = await chartOf(person, (searchParams.get('q') ?? '').slice(0, 200), searchParams.getAll('cutter'));
  const body = await chartPdf(chart, {
    paper,
    origin,
    date: day(new Date(), person?.zone ?? 'UTC'),
    unit: person?.temperature_unit ?? 'C',
  });
  return pdfAnswer(body, `wall-chart-${paper}.pdf`);
}
