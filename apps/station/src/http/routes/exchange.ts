import { Router } from 'express';
import { routes } from '@tombolo/contract';
import { formatMbox } from '@tombolo/core';
import type { StationContext } from '../../context';
import { listMeshNodes } from '../../heard/mesh-nodes';
import { ProblemError } from '../../problem-error';
import { listOffers } from '../../sessions/offers';
import { rowsOf } from '../../store/database';
import { serve } from '../serve';
import { sendPieces } from '../stream';

/** Boards, mail and mesh: what lies there, sessions. */
export function exchangeRoutes(context: StationContext): Router {
  const router = Router();
  const { database, sessions } = context;

  serve(router, routes.meshNodes, async () => listMeshNodes(database, await context.settings()));

  serve(router, routes.offers, ({ query }) => listOffers(database, query.bearerId));
  serve(router, routes.sessions, ({ query }) => sessions.list(query.bearerId));
  serve(router, routes.beginSession, ({ body }) => sessions.start(body));
  serve(router, routes.session, ({ params }) => sessions.view(params.id));
  serve(router, routes.typeLine, ({ params, body }) => sessions.type(params.id, body.line));
  serve(router, routes.endSession, ({ params }) => sessions.stop(params.id));

  serve(router, routes.attachment, async ({ params, response }) => {
    const [file] = await rowsOf<{ name: string; content: Buffer }>(
      database,
      'select name, content from attachment where id = $1',
      [params.id],
    );
    if (!file) throw new ProblemError(404, 'no-such-attachment', 'That attachment does not exist', 'It may be gone.');
    // Whatever it says that it is: it is saved, never shown as a page of ours.
    response
      .set('Content-Disposition', `attachment; filename*=UTF-8\'\'${encodeURIComponent(file.name)}`)
      .type('application/octet-stream')
      .send(file.content);
  });
  serve(router, routes.message, async ({ params, response }) => {
    const [message] = await mailOctets(context, 'and i.id = $1', [params.id]);
    if (!message)
      throw new ProblemError(404, 'no-mail', 'That is no mail', 'Only mail can be saved as a message file.');
    response
      .set('Content-Disposition', 'attachment; filename="message.eml"')
      .type('message/rfc822')
      .send(message.octets);
  });
  serve(router, routes.mailbox, async ({ response }) => {
    async function* pieces() {
      for (let from = 0; ; from += MAILS_AT_ONCE) {
        const messages = await mailOctets(context, '', [], `offset ${from} limit ${MAILS_AT_ONCE}`);
        for (const message of messages) yield Buffer.from(formatMbox([message]));
        if (messages.length < MAILS_AT_ONCE) return;
      }
    }
    await sendPieces(response, pieces(), () =>
      response.set('Content-Disposition', 'attachment; filename="mail.mbox"').type('application/mbox'),
    );
  });
  return router;
}

const MAILS_AT_ONCE = 20;

/** Mails as they came and went, oldest first. */
const mailOctets = async (context: StationContext, where: string, parameters: unknown[], page = '') =>
  (
    await rowsOf<{ sender: string; created_at: Date; info: Buffer }>(
      context.database,
      `select distinct on (i.created_at, i.id) i.sender, i.created_at, l.info from item i join leg l on l.item_id = i.id
       where i.kind = 'mail' and l.role = 'convey' and length(l.info) > 0 ${where} order by i.created_at, i.id, l.created_at ${page}`,
      parameters,
    )
  ).map((row) => ({ sender: row.sender, at: row.created_at, octets: row.info }));
