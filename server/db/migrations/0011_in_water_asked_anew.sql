UPDATE "versions" SET "design" = replace("design"::text, '"surroundings": "in water"', '"surroundings": null')::jsonb WHERE "design"::text LIKE '%"surroundings": "in water"%';
