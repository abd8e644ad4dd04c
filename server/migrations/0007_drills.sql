CREATE TABLE "drill" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"form" text NOT NULL,
	"deal" jsonb NOT NULL,
	"earlier_starts" jsonb NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"ended_on" date,
	"result" jsonb,
	"met" boolean DEFAULT false NOT NULL,
	"first_station" text
);
--> statement-breakpoint
CREATE TABLE "drill_act" (
	"seq" bigserial NOT NULL,
	"id" uuid PRIMARY KEY NOT NULL,
	"drill_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "practice_review" (
	"drill_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"item" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"outcome" text NOT NULL,
	"mistaken_for" jsonb NOT NULL,
	CONSTRAINT "practice_review_drill_id_item_pk" PRIMARY KEY("drill_id","item")
);
--> statement-breakpoint
ALTER TABLE "drill" ADD CONSTRAINT "drill_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drill" ADD CONSTRAINT "drill_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drill" ADD CONSTRAINT "drill_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drill" ADD CONSTRAINT "drill_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drill_act" ADD CONSTRAINT "drill_act_drill_id_drill_id_fk" FOREIGN KEY ("drill_id") REFERENCES "public"."drill"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_review" ADD CONSTRAINT "practice_review_drill_id_drill_id_fk" FOREIGN KEY ("drill_id") REFERENCES "public"."drill"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_review" ADD CONSTRAINT "practice_review_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "drill_person" ON "drill" USING btree ("person_id","class_id","ended_at");--> statement-breakpoint
CREATE INDEX "drill_act_of" ON "drill_act" USING btree ("drill_id","seq");--> statement-breakpoint
CREATE INDEX "practice_review_person" ON "practice_review" USING btree ("person_id","class_id");--> statement-breakpoint
CREATE TRIGGER drill_act_append_only BEFORE UPDATE OR DELETE ON "drill_act" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER drill_act_kept BEFORE TRUNCATE ON "drill_act" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
