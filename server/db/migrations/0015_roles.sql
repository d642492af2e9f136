ALTER TABLE "faults" ADD COLUMN "pilot_blamed" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "faults" SET "pilot_blamed" = true WHERE "cause" ~* '\y(pilot|driver|operator) error';--> statement-breakpoint
UPDATE "suspects" SET "key" = 'pilot' WHERE "id" IN (SELECT min(s."id") FROM "suspects" s WHERE s."cause" ~* '\ypilot(?! (hole|bearing|drill|wire))|\ydriver error|operator error' AND NOT EXISTS (SELECT 1 FROM "suspects" o WHERE o."fault_id" = s."fault_id" AND o."key" = 'pilot') GROUP BY s."fault_id");--> statement-breakpoint
UPDATE "versions" SET "design" = jsonb_set("design", '{items}', (SELECT coalesce(jsonb_agg(jsonb_build_object('role', CASE
  WHEN i->>'group' ~* '^ballast\y' OR i->>'name' ~* '\y(ballast|trim lead|nose lead)\y' THEN 'ballast'
  WHEN i->>'name' ~* 'servo' THEN 'servo'
  WHEN i->>'name' ~* '\ymotors?\y' AND NOT i->>'name' ~* '\y(controllers?|esc)\y' THEN 'motor'
  WHEN i->>'name' ~* '\y(controllers?|esc)\y' AND NOT i->>'name' ~* '\ymotors?\y' THEN 'controller'
  WHEN i->>'name' ~* 'rudder|aileron|elevator|flap|elevon|vane' AND NOT i->>'name' ~* '\ymotors?\y' THEN 'moving surface'
  ELSE 'not said' END, 'twinId', (SELECT o->>'id' FROM jsonb_array_elements("design"->'items') o WHERE o->>'id' <> i->>'id' AND (
    (i->>'name' ~* '\yleft\y' AND o->>'name' ~* '\yright\y' AND lower(regexp_replace(i->>'name', '\yleft\y', '', 'i')) = lower(regexp_replace(o->>'name', '\yright\y', '', 'i')))
    OR (i->>'name' ~* '\yright\y' AND o->>'name' ~* '\yleft\y' AND lower(regexp_replace(i->>'name', '\yright\y', '', 'i')) = lower(regexp_replace(o->>'name', '\yleft\y', '', 'i')))
    OR (i->>'name' ~* '\yport\y' AND o->>'name' ~* '\ystarboard\y' AND lower(regexp_replace(i->>'name', '\yport\y', '', 'i')) = lower(regexp_replace(o->>'name', '\ystarboard\y', '', 'i')))
    OR (i->>'name' ~* '\ystarboard\y' AND o->>'name' ~* '\yport\y' AND lower(regexp_replace(i->>'name', '\ystarboard\y', '', 'i')) = lower(regexp_replace(o->>'name', '\yport\y', '', 'i')))
    OR (i->>'name' ~ '\yL$' AND o->>'name' ~ '\yR$' AND lower(regexp_replace(i->>'name', '\yL$', '')) = lower(regexp_replace(o->>'name', '\yR$', '')))
    OR (i->>'name' ~ '\yR$' AND o->>'name' ~ '\yL$' AND lower(regexp_replace(i->>'name', '\yR$', '')) = lower(regexp_replace(o->>'name', '\yL$', '')))
  ) LIMIT 1)) || i ORDER BY n), '[]'::jsonb) FROM jsonb_array_elements("design"->'items') WITH ORDINALITY AS t(i, n))) WHERE jsonb_typeof("design"->'items') = 'array';--> statement-breakpoint
UPDATE "versions" SET "design" = jsonb_set("design", '{setup}', (SELECT coalesce(jsonb_agg(CASE WHEN s->>'name' ~* 'fail.?safe' THEN s || '{"kind":"fail-safe"}'::jsonb ELSE s END ORDER BY n), '[]'::jsonb) FROM jsonb_array_elements("design"->'setup') WITH ORDINALITY AS t(s, n))) WHERE jsonb_typeof("design"->'setup') = 'array';
