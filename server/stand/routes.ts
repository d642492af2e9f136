import type { Express, Response } from "express";
import { type StandReading, contracts, standSetupSchema, streamQuerySchema } from "../../api/contracts";
import { notFound, refused } from "../problems";
import type { Stand } from "./stand";

/** Readings kept for a page that lost its connection and comes back. */
const KEPT = 1200;
/** ms without anybody listening after which the throttle is cut: nobody would see what happens. */
const ALONE = 2000;
/** ms between signs of life of a stream on which nothing happens. */
const BEAT = 15_000;
/**
 * Above this throttle the stand wants to be outdoors or behind a barrier; above `IDLE` all of the safety list ticked.
 */
const OPEN_AIR = 0.2;
const IDLE = 0.1;

/**
 * Readings of a stand as server-sent events, with a number each: a page that lost the connection asks again with the
 * last number it had and misses nothing. Throttle is taken only with
 * the safety list ticked, and is cut when nobody listens.
 */
export function standRoutes(app: Express, stand: Stand): void {
  const kept: { id: number; reading: StandReading }[] = [];
  const pages = new Set<Response>();
  let count = 0;
  let ready = false;
  let alone: NodeJS.Timeout | null = null;
  const event = (id: number, reading: StandReading) =>
    `id: ${id}\nevent: reading\ndata: ${JSON.stringify(reading)}\n\n`;
  stand.listen((reading) => {
    const entry = { id: ++count, reading };
    kept.push(entry);
    if (kept.length > KEPT) kept.shift();
    for (const page of pages) page.write(event(entry.id, entry.reading));
  });
  const cutWhenAlone = () => {
    if (alone) clearTimeout(alone);
    alone = setTimeout(() => {
      if (pages.size === 0) stand.command(0);
    }, ALONE);
    alone.unref();
  };

  app.get(contracts.stand.path, (_request, response) => {
    response.json({ id: stand.id, name: stand.name, rate: stand.rate, ready, last: count });
  });
  app.post(contracts.setUpStand.path, (request, response) => {
    stand.setUp(standSetupSchema.parse(request.body));
    ready = true;
    kept.length = 0;
    response.json({ last: count });
  });
  app.post(contracts.commandStand.path, (request, response) => {
    const { throttle, safety } = contracts.commandStand.body.parse(request.body);
    if (!ready) throw notFound("The stand has not been set up.");
    const open = Object.entries(safety).filter(([, ticked]) => ticked === false);
    if (throttle > IDLE && open.length > 0) throw refused("Above idle the whole safety list must be ticked.");
    if (throttle > OPEN_AIR && safety.place === "indoors")
      throw refused("Above 20 % throttle the stand must be outdoors or behind a barrier.");
    stand.command(throttle);
    cutWhenAlone();
    response.json({});
  });
  app.get(contracts.streamStand.path, (request, response) => {
    const asked = streamQuerySchema.parse({
      after: request.headers["last-event-id"] ?? request.query.after,
    }).after;
    const after = asked ?? count;
    response.writeHead(200, {
      "content-type": "text/event-stream",
      "cache-control": "no-store",
      "x-accel-buffering": "no",
    });
    response.write("retry: 500\n\n");
    for (const entry of kept) if (entry.id > after) response.write(event(entry.id, entry.reading));
    pages.add(response);
    // Nothing is read while the stand rests: a line now and then keeps the connection open, and finds one that is gone.
    const beat = setInterval(() => response.write(": here\n\n"), BEAT);
    beat.unref();
    request.on("close", () => {
      clearInterval(beat);
      pages.delete(response);
      cutWhenAlone();
    });
  });
}
