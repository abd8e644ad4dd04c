CREATE TABLE "desk_run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"program" text NOT NULL,
	"mode" text NOT NULL,
	"deal" jsonb NOT NULL,
	"log" jsonb NOT NULL,
	"ticks" integer DEFAULT 0 NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"result" jsonb
);
--> statement-breakpoint
ALTER TABLE "desk_run" ADD CONSTRAINT "desk_run_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_run" ADD CONSTRAINT "desk_run_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_run" ADD CONSTRAINT "desk_run_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_run" ADD CONSTRAINT "desk_run_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "desk_run_person" ON "desk_run" USING btree ("person_id","class_id","ended_at");