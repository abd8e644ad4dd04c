ALTER TABLE "practice_review" RENAME COLUMN "drill_id" TO "practice_id";--> statement-breakpoint
ALTER TABLE "practice_review" DROP CONSTRAINT "practice_review_drill_id_drill_id_fk";
--> statement-breakpoint
ALTER TABLE "practice_review" DROP CONSTRAINT "practice_review_drill_id_item_pk";--> statement-breakpoint
ALTER TABLE "practice_review" ADD CONSTRAINT "practice_review_practice_id_item_pk" PRIMARY KEY("practice_id","item");--> statement-breakpoint
INSERT INTO "practice_review" ("practice_id", "person_id", "class_id", "item", "at", "outcome", "mistaken_for")
SELECT r."id", r."person_id", r."class_id", 'step:' || (s->>'id'), r."ended_at",
  CASE WHEN NOT (s->>'flawed')::boolean THEN 'right' WHEN s->>'state' IN ('done', 'prompted') THEN 'nearly' ELSE 'wrong' END,
  '[]'::jsonb
FROM "sequence_result" r CROSS JOIN jsonb_array_elements(r."steps") s
WHERE (s->>'due')::boolean
ON CONFLICT DO NOTHING;
