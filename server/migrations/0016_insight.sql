CREATE TABLE "evaluation_observation" (
	"evaluation_id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"account_id" uuid NOT NULL,
	"on_day" date NOT NULL,
	"version" integer NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "item_review" (
	"seq" bigserial NOT NULL,
	"id" uuid PRIMARY KEY NOT NULL,
	"class_id" text NOT NULL,
	"item" text NOT NULL,
	"decision" text NOT NULL,
	"reason" text NOT NULL,
	"people" integer NOT NULL,
	"account_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "evaluation_observation" ADD CONSTRAINT "evaluation_observation_evaluation_id_evaluation_id_fk" FOREIGN KEY ("evaluation_id") REFERENCES "public"."evaluation"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation_observation" ADD CONSTRAINT "evaluation_observation_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation_observation" ADD CONSTRAINT "evaluation_observation_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_review" ADD CONSTRAINT "item_review_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_review" ADD CONSTRAINT "item_review_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "evaluation_observation_on" ON "evaluation_observation" USING btree ("on_day","class_id");--> statement-breakpoint
CREATE INDEX "item_review_of" ON "item_review" USING btree ("class_id","item");--> statement-breakpoint
CREATE TRIGGER item_review_append_only BEFORE UPDATE OR DELETE ON "item_review" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER item_review_kept BEFORE TRUNCATE ON "item_review" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
