CREATE TABLE "rate_limit" (
	"key" varchar(255) PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
CREATE TABLE "standing" (
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"status" text NOT NULL,
	"may_operate" text NOT NULL,
	"until_date" date,
	"as_of" date NOT NULL,
	"next_change" date,
	"body" jsonb NOT NULL,
	CONSTRAINT "standing_person_id_class_id_pk" PRIMARY KEY("person_id","class_id")
);
--> statement-breakpoint
DROP INDEX "pack_revision_class";--> statement-breakpoint
ALTER TABLE "rule_set" ALTER COLUMN "body" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "device_key" text;--> statement-breakpoint
ALTER TABLE "evaluation" ADD COLUMN "computed" text;--> statement-breakpoint
ALTER TABLE "evaluation" ADD COLUMN "decided_by" uuid;--> statement-breakpoint
ALTER TABLE "evaluation_event" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "pack_draft" ADD COLUMN "errors" jsonb;--> statement-breakpoint
ALTER TABLE "rule_set" ADD COLUMN "seq" bigserial NOT NULL;--> statement-breakpoint
ALTER TABLE "rule_set" ADD COLUMN "site" text;--> statement-breakpoint
ALTER TABLE "rule_set" ADD COLUMN "class_id" text;--> statement-breakpoint
ALTER TABLE "rule_set" ADD COLUMN "given" text DEFAULT 'keep' NOT NULL;--> statement-breakpoint
ALTER TABLE "school_choice" ADD COLUMN "seq" bigserial NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "confirmed" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "standing" ADD CONSTRAINT "standing_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing" ADD CONSTRAINT "standing_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "rate_limit_expire" ON "rate_limit" USING btree ("expire");--> statement-breakpoint
CREATE INDEX "standing_status" ON "standing" USING btree ("status","until_date");--> statement-breakpoint
CREATE INDEX "standing_change" ON "standing" USING btree ("next_change");--> statement-breakpoint
CREATE INDEX "standing_as_of" ON "standing" USING btree ("as_of");--> statement-breakpoint
ALTER TABLE "rule_set" ADD CONSTRAINT "rule_set_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_act" ON "audit" USING btree ("act","seq");--> statement-breakpoint
-- Two people publishing at one moment could give one number twice; numbers of such a class are counted anew in the order they were published.
UPDATE "pack_revision" p SET "revision" = n.number FROM (
	SELECT "hash", "class_id", row_number() OVER (PARTITION BY "class_id" ORDER BY "revision", "published_at", "hash") AS number FROM "pack_revision"
) n WHERE p."hash" = n."hash" AND n."class_id" IN (SELECT "class_id" FROM "pack_revision" GROUP BY "class_id", "revision" HAVING count(*) > 1);--> statement-breakpoint
UPDATE "evaluation" e SET "decided_by" = (
	SELECT v."account_id" FROM "evaluation_event" v WHERE v."evaluation_id" = e."id" AND v."body" ->> 'kind' = 'decided' ORDER BY v."seq" LIMIT 1
);--> statement-breakpoint
CREATE UNIQUE INDEX "pack_revision_number" ON "pack_revision" USING btree ("class_id","revision");