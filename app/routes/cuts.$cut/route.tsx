import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { cardOfCut, sayWhatWasSeen } from '#work/cards.ts';
import { dropJob, jobOf } from '#work/jobs.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, enterToWrite, found, writeForm } from '../../server/enter.server.ts';
import { Field, FormNotice } from '../../ui/Field.tsx';
import { isolate } from '../../ui/format.ts';
import { HowDidItGo } from '../../ui/HowDidItGo.tsx';
import { GoButton } from '../../ui/Link.tsx';
import { Refused, Sending } from '../../ui/Sending.tsx';
import { Swatch } from '../../ui/Swatch.tsx';
import { vinylHex, vinylTitle } from '../../ui/vinylName.ts';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/cuts.$cut/route', args);
  const job = await found(jobOf(person, args.params.cut));
  return { job, card: await cardOfCut(person, job.id), told: new URL(args.request.url).searchParams.has('told') };
}

/** "It was not cut after all", or what was seen, told to the author of the card. */
export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/cuts.$cut/route', args);
  const form = await args.request.formData();
  return writeForm(form, headers, async () => {
    if (form.get('what') === 'tell') {
      await sayWhatWasSeen(person, args.params.cut, form, addressOf(args.context));
      return `/cuts/${args.params.cut}?told`;
    }
    await dropJob(person, args.params.cut);
    return '/';
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.job.title) }];

/** The second of two taps: how did the cut go? */
export default function Job({ loaderData: { job, card, told }, actionData }: Route.ComponentProps) {
  return (
    <>
      <div className="head">
        <Swatch type={job.vinyl.type} hex={vinylHex(job.vinyl)} seed={job.vinyl.id} size={64} standing="tried" />
        <div>
          <h1>{vinylTitle(job.vinyl)}</h1>
          <p className="quiet">
            {words.job.noted} · <Sending />
          </p>
        </div>
      </div>
      <Refused />
      <div style={{ maxWidth: 640 }}>
        <HowDidItGo job={job} title={words.job.ask} alone />
        <p className="quiet" style={{ marginTop: 16 }}>
          {words.job.later}
        </p>
        {card && (
          <Form method="post" className="form" style={{ marginTop: 32 }} noValidate key={String(told)}>
            <input type="hidden" name="what" value="tell" />
            <p>
              {words.job.card(isolate(card.author))}{' '}
              {card.address && <Link to={`/cards/${card.address}`}>{words.job.toCard}</Link>}
            </p>
            {told && (
              <p className="notice" role="status" data-testid="told">
                {words.job.told(isolate(card.author))}
              </p>
            )}
            {actionData && <FormNotice answer={actionData} text={words.errors.form} />}
            <Field name="said" label={words.job.say} answer={actionData} initial={card.said} multiline minRows={3} />
            <div>
              <Button type="submit">{words.job.tell(isolate(card.author))}</Button>
            </div>
          </Form>
        )}
        <div className="actions">
          <GoButton to="/">{words.job.back}</GoButton>
        </div>
      </div>
    </>
  );
}
