import { Router, json } from 'express';
import { newMail, newMeshText, newPost, newSession, terminalLine } from '@tombolo/contract';
import { formatMbox } from '@tombolo/core';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { listMeshNodes } from '../../heard/mesh-nodes';
import { ProblemError } from '../../problem-error';
import { listOffers } from '../../sessions/offers';
import { rowsOf } from '../../store/database';
import { queueMail, queueMeshText, queuePost } from '../../traffic/compose-others';
import { itemDetail } from '../../traffic/views';
import { read } from '../problem';
import { sendPieces } from '../stream';

/** Boards, mail and mesh: what is written for them, what lies there, sessions. */
export function exchangeRoutes(context: StationContext): Router {
  const router = Router();
  const { database, sessions } = context;
  const now = () => new Date(context.now());
  const idOf = (parameters: unknown) => read(z.object({ id: z.uuid() }), parameters).id;
  const bearerOf = (query: unknown) => read(z.object({ bearerId: z.string().min(1) }), query).bearerId;

  router.post('/posts', json(), async (request, response) => {
    const post = read(newPost, request.body);
    await queuePost(database, post, await context.settings(), now());
    response.status(201).json(await itemDetail(database, post.id, now()));
  });
  router.post('/mails', json({ limit: '8mb' }), async (request, response) => {
    const mail = read(newMail, request.body);
    await queueMail(database, mail, await context.settings(), now());
    response.status(201).json(await itemDetail(database, mail.id, now()));
  });
  router.post('/mesh-texts', json(), async (request, response) => {
    const text = read(newMeshText, request.body);
    await queueMeshText(database, text, await context.settings(), now());
    context.wakeOutbox();
    response.status(201).json(await itemDetail(database, text.id, now()));
  });
  router.get('/mesh-nodes', async (_request, response) => {
    response.json(await listMeshNodes(database, await context.settings()));
  });

  router.get('/offers', async (request, response) => {
    response.json(await listOffers(database, bearerOf(request.query)));
  });
  router.get('/sessions', async (request, response) => {
    response.json(await sessions.list(bearerOf(request.query)));
  });
  router.post('/sessions', json(), async (request, response) => {
    response.status(201).json(await sessions.start(read(newSession, request.body)));
  });
  router.get('/sessions/:id', async (request, response) => {
    response.json(await sessions.view(idOf(request.params)));
  });
  router.post('/sessions/:id/lines', json(), async (request, response) => {
    const { line } = read(terminalLine, request.body);
    response.json(await sessions.type(idOf(request.params), line));
  });
  router.delete('/sessions/:id', async (request, response) => {
    response.json(await sessions.stop(idOf(request.params)));
  });

  router.get('/attachments/:id', async (request, response) => {
    const [file] = await rowsOf<{ name: string; content: Buffer }>(
      database,
      'select name, content from attachment where id = $1',
      [idOf(request.params)],
    );
    if (!file) throw new ProblemError(404, 'no-such-attachment', 'That attachment does not exist', 'It may be gone.');
    // Whatever it says that it is: it is saved, never shown as a page of ours.
    response
      .set('Content-Disposition', `attachment; filename*=UTF-8\'\'${encodeURIComponent(file.name)}`)
      .type('application/octet-stream')
      .send(file.content);
  });
  router.get('/items/:id/message.eml', async (request, response) => {
    const [message] = await mailOctets(context, 'and i.id = $1', [idOf(request.params)]);
    if (!message)
      throw new ProblemError(404, 'no-mail', 'That is no mail', 'Only mail can be saved as a message file.');
    response
      .set('Content-Disposition', 'attachment; filename="message.eml"')
      .type('message/rfc822')
      .send(message.octets);
  });
  router.get('/exports/mail.mbox', async (_request, response) => {
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
