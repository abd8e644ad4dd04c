CREATE TABLE "account" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"login" text NOT NULL,
	"password_hash" text NOT NULL,
	"role" text NOT NULL,
	"team" text,
	"person_id" uuid,
	"active" boolean DEFAULT true NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "audit" (
	"seq" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"account_id" uuid,
	"act" text NOT NULL,
	"subject" text NOT NULL,
	"detail" jsonb
);
--> statement-breakpoint
CREATE TABLE "certificate" (
	"token" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"event_id" uuid NOT NULL,
	"evaluation_id" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "certification_event" (
	"seq" bigserial NOT NULL,
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"on_date" date NOT NULL,
	"body" jsonb NOT NULL,
	"evaluation_id" uuid,
	"account_id" uuid NOT NULL,
	"recorded_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "effective_pack" (
	"hash" text PRIMARY KEY NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "evaluation" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"unit_id" uuid NOT NULL,
	"pack_hash" text NOT NULL,
	"trainer_id" uuid NOT NULL,
	"conditions" text NOT NULL,
	"earlier_starts" jsonb NOT NULL,
	"holder_id" uuid,
	"holder_device" text,
	"held_since" timestamp with time zone,
	"phase" text NOT NULL,
	"first_station" text,
	"outcome" text,
	"score" text,
	"overridden" boolean DEFAULT false NOT NULL,
	"still_planted" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "evaluation_event" (
	"seq" bigserial NOT NULL,
	"id" uuid PRIMARY KEY NOT NULL,
	"evaluation_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"account_id" uuid NOT NULL,
	"body" jsonb NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "machine_class" (
	"id" text PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"family" text NOT NULL,
	"published_hash" text
);
--> statement-breakpoint
CREATE TABLE "pack_revision" (
	"hash" text PRIMARY KEY NOT NULL,
	"class_id" text NOT NULL,
	"revision" integer NOT NULL,
	"body" jsonb NOT NULL,
	"published_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"payroll" text NOT NULL,
	"given_name" text NOT NULL,
	"family_name" text NOT NULL,
	"site" text NOT NULL,
	"team" text NOT NULL,
	"email" text,
	"born" date,
	"started" date,
	"active" boolean DEFAULT true NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "rule_set" (
	"id" uuid PRIMARY KEY NOT NULL,
	"effective_from" date NOT NULL,
	"body" jsonb NOT NULL,
	"account_id" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "session" (
	"id" uuid PRIMARY KEY NOT NULL,
	"token_hash" text NOT NULL,
	"previous_hash" text,
	"account_id" uuid NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"rotated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "setting" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempt" (
	"seq" bigserial PRIMARY KEY NOT NULL,
	"subject" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "unit" (
	"id" uuid PRIMARY KEY NOT NULL,
	"class_id" text NOT NULL,
	"name" text NOT NULL,
	"site" text NOT NULL,
	"variant" text,
	"features" jsonb NOT NULL,
	"in_service" boolean DEFAULT true NOT NULL
);
--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "certificate" ADD CONSTRAINT "certificate_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "certification_event" ADD CONSTRAINT "certification_event_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "certification_event" ADD CONSTRAINT "certification_event_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation" ADD CONSTRAINT "evaluation_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation" ADD CONSTRAINT "evaluation_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation" ADD CONSTRAINT "evaluation_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation" ADD CONSTRAINT "evaluation_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation" ADD CONSTRAINT "evaluation_trainer_id_account_id_fk" FOREIGN KEY ("trainer_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evaluation_event" ADD CONSTRAINT "evaluation_event_evaluation_id_evaluation_id_fk" FOREIGN KEY ("evaluation_id") REFERENCES "public"."evaluation"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_revision" ADD CONSTRAINT "pack_revision_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit" ADD CONSTRAINT "unit_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "account_login" ON "account" USING btree ("login");--> statement-breakpoint
CREATE INDEX "certificate_evaluation" ON "certificate" USING btree ("evaluation_id");--> statement-breakpoint
CREATE INDEX "certificate_event" ON "certificate" USING btree ("event_id");--> statement-breakpoint
CREATE INDEX "certification_event_of" ON "certification_event" USING btree ("person_id","class_id","on_date");--> statement-breakpoint
CREATE INDEX "evaluation_person" ON "evaluation" USING btree ("person_id","class_id");--> statement-breakpoint
CREATE INDEX "evaluation_created" ON "evaluation" USING btree ("created_at");--> statement-breakpoint
CREATE INDEX "evaluation_phase" ON "evaluation" USING btree ("phase");--> statement-breakpoint
CREATE INDEX "evaluation_event_of" ON "evaluation_event" USING btree ("evaluation_id","seq");--> statement-breakpoint
CREATE INDEX "pack_revision_class" ON "pack_revision" USING btree ("class_id");--> statement-breakpoint
CREATE UNIQUE INDEX "person_payroll" ON "person" USING btree ("payroll");--> statement-breakpoint
CREATE INDEX "person_name" ON "person" USING btree ("family_name","given_name","id");--> statement-breakpoint
CREATE INDEX "person_team" ON "person" USING btree ("team");--> statement-breakpoint
CREATE UNIQUE INDEX "session_token" ON "session" USING btree ("token_hash");--> statement-breakpoint
CREATE INDEX "session_previous" ON "session" USING btree ("previous_hash");--> statement-breakpoint
CREATE INDEX "sign_in_attempt_subject" ON "sign_in_attempt" USING btree ("subject","at");--> statement-breakpoint
CREATE UNIQUE INDEX "unit_name" ON "unit" USING btree ("name");--> statement-breakpoint
CREATE INDEX "unit_class" ON "unit" USING btree ("class_id");