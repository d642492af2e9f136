-- What is around a drive becomes a list, and what it works in is air or water (format 11, core/design/openFile.ts).
WITH said AS (
  SELECT v."id", u.n, u.unit,
    ARRAY[u.unit->>'surroundings'] || coalesce(
      (SELECT array_agg(c->>'works') FROM jsonb_array_elements(CASE WHEN jsonb_typeof(v."design"->'states') = 'array' THEN v."design"->'states' ELSE '[]' END) s,
        jsonb_array_elements(CASE WHEN jsonb_typeof(s->'units') = 'array' THEN s->'units' ELSE '[]' END) c
        WHERE c->>'id' = u.unit->>'id'), ARRAY[]::text[]) AS works
  FROM "versions" v, jsonb_array_elements(v."design"->'units') WITH ORDINALITY AS u(unit, n)
  WHERE jsonb_typeof(v."design") = 'object' AND jsonb_typeof(v."design"->'units') = 'array'
), listed AS (
  SELECT "id", jsonb_agg(unit || jsonb_build_object(
    'surroundings', CASE WHEN unit->>'surroundings' IN ('free air', 'boxed or ducted', 'overlapped or coaxial') THEN '"in air"'::jsonb ELSE coalesce(unit->'surroundings', 'null'::jsonb) END,
    'around', CASE
      WHEN jsonb_typeof(unit->'around') = 'array' THEN unit->'around'
      WHEN 'boxed or ducted' = ANY(works) THEN jsonb_build_array(CASE WHEN unit->'around'->>'kind' = 'openings' THEN unit->'around' ELSE '{"kind": "openings", "inlet": null, "outlet": null, "edges": "not said"}'::jsonb END)
      WHEN 'overlapped or coaxial' = ANY(works) THEN jsonb_build_array(CASE
        WHEN unit->'around'->>'kind' = 'overlap' THEN unit->'around'
        WHEN unit->'around'->>'kind' = 'coaxial' THEN '{"spacing": null}'::jsonb || (unit->'around')
        ELSE '{"kind": "overlap", "spacing": null, "neighbours": 1}'::jsonb END)
      ELSE '[]'::jsonb END) ORDER BY n) AS units
  FROM said GROUP BY "id"
)
UPDATE "versions" SET "design" = "design" || jsonb_build_object('units', listed.units) FROM listed WHERE listed."id" = "versions"."id";--> statement-breakpoint
UPDATE "versions" SET "design" = "design" || jsonb_build_object('states', (
  SELECT jsonb_agg(CASE WHEN jsonb_typeof(s->'units') = 'array' THEN s || jsonb_build_object('units', coalesce((
    SELECT jsonb_agg(CASE WHEN c->>'works' IN ('free air', 'boxed or ducted', 'overlapped or coaxial') THEN c || '{"works": "in air"}' ELSE c END ORDER BY m)
    FROM jsonb_array_elements(s->'units') WITH ORDINALITY AS e(c, m)), '[]'::jsonb)) ELSE s END ORDER BY n)
  FROM jsonb_array_elements("design"->'states') WITH ORDINALITY AS t(s, n)))
WHERE jsonb_typeof("design") = 'object' AND jsonb_typeof("design"->'states') = 'array' AND jsonb_array_length("design"->'states') > 0;
