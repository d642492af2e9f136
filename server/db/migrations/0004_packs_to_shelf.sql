INSERT INTO "shelf" ("kind", "name", "part", "revision") SELECT 'pack', "name", "pack" || '{"kind":"pack","price":null}'::jsonb, "revision" FROM "packs" ORDER BY "id";--> statement-breakpoint
DROP TABLE "packs" CASCADE;
