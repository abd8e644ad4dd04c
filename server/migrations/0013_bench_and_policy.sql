CREATE TABLE "bench" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"kind" text NOT NULL,
	"dealt" jsonb NOT NULL,
	"timed" integer,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"answered" integer DEFAULT 0 NOT NULL,
	"right" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bench_answer" (
	"bench_id" uuid NOT NULL,
	"n" integer NOT NULL,
	"body" jsonb NOT NULL,
	"took" integer,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "bench_answer_bench_id_n_pk" PRIMARY KEY("bench_id","n")
);
--> statement-breakpoint
CREATE TABLE "policy_line" (
	"id" uuid PRIMARY KEY NOT NULL,
	"site" text,
	"scope" jsonb NOT NULL,
	"at_least" text NOT NULL,
	"from_day" date NOT NULL,
	"why" text NOT NULL,
	"account_id" uuid NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"ended_on" date,
	"ended_by" uuid,
	"ended_why" text
);
--> statement-breakpoint
ALTER TABLE "bench" ADD CONSTRAINT "bench_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench" ADD CONSTRAINT "bench_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench" ADD CONSTRAINT "bench_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench" ADD CONSTRAINT "bench_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_answer" ADD CONSTRAINT "bench_answer_bench_id_bench_id_fk" FOREIGN KEY ("bench_id") REFERENCES "public"."bench"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "policy_line" ADD CONSTRAINT "policy_line_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "policy_line" ADD CONSTRAINT "policy_line_ended_by_account_id_fk" FOREIGN KEY ("ended_by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bench_person" ON "bench" USING btree ("person_id","class_id","ended_at");--> statement-breakpoint
CREATE TRIGGER bench_answer_append_only BEFORE UPDATE OR DELETE ON "bench_answer" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER bench_answer_kept BEFORE TRUNCATE ON "bench_answer" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE FUNCTION refuse_policy_change() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
  IF OLD."ended_on" IS NULL AND NEW."id" = OLD."id" AND NEW."site" IS NOT DISTINCT FROM OLD."site" AND NEW."scope" = OLD."scope" AND NEW."at_least" = OLD."at_least" AND NEW."from_day" = OLD."from_day" AND NEW."why" = OLD."why" AND NEW."account_id" = OLD."account_id" AND NEW."made_at" = OLD."made_at" THEN RETURN NEW; END IF;
  RAISE EXCEPTION 'policy_line is only ever ended';
END $$;--> statement-breakpoint
CREATE TRIGGER policy_line_only_ended BEFORE UPDATE ON "policy_line" FOR EACH ROW EXECUTE FUNCTION refuse_policy_change();--> statement-breakpoint
CREATE TRIGGER policy_line_append_only BEFORE DELETE ON "policy_line" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER policy_line_kept BEFORE TRUNCATE ON "policy_line" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
