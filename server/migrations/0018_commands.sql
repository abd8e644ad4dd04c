CREATE TABLE "command_set" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"called_at" text NOT NULL,
	"deal" jsonb NOT NULL,
	"log" jsonb,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"result" jsonb
);
--> statement-breakpoint
ALTER TABLE "command_set" ADD CONSTRAINT "command_set_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "command_set" ADD CONSTRAINT "command_set_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "command_set" ADD CONSTRAINT "command_set_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "command_set" ADD CONSTRAINT "command_set_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "command_set_person" ON "command_set" USING btree ("person_id","class_id","ended_at");