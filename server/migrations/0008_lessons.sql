CREATE TABLE "lesson" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"plan" jsonb NOT NULL,
	"slide" integer DEFAULT 0 NOT NULL,
	"blank" boolean DEFAULT false NOT NULL,
	"point_and_call" boolean DEFAULT false NOT NULL,
	"answered" boolean DEFAULT false NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"attended" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "lesson" ADD CONSTRAINT "lesson_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lesson" ADD CONSTRAINT "lesson_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lesson" ADD CONSTRAINT "lesson_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "lesson_code" ON "lesson" USING btree ("code");--> statement-breakpoint
CREATE INDEX "lesson_started" ON "lesson" USING btree ("started_at");