CREATE TABLE "exercise" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text,
	"title" text NOT NULL,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"cases" jsonb NOT NULL,
	"n" integer,
	"revealed" jsonb NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "exercise_answer" (
	"place_id" uuid NOT NULL,
	"exercise_id" uuid NOT NULL,
	"n" integer NOT NULL,
	"grade" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "exercise_answer_place_id_n_pk" PRIMARY KEY("place_id","n")
);
--> statement-breakpoint
CREATE TABLE "exercise_cards" (
	"exercise_id" uuid NOT NULL,
	"n" integer NOT NULL,
	"counts" jsonb NOT NULL,
	CONSTRAINT "exercise_cards_exercise_id_n_pk" PRIMARY KEY("exercise_id","n")
);
--> statement-breakpoint
CREATE TABLE "exercise_place" (
	"id" uuid PRIMARY KEY NOT NULL,
	"exercise_id" uuid NOT NULL,
	"name" text NOT NULL,
	"account_id" uuid,
	"seat_id" uuid,
	"guest" boolean NOT NULL,
	"person_id" uuid,
	"joined_at" timestamp with time zone NOT NULL,
	"graded" integer DEFAULT 0 NOT NULL,
	"right" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "exercise_set" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"variant" text NOT NULL,
	"site" text,
	"cases" jsonb NOT NULL,
	"kept_on" date NOT NULL
);
--> statement-breakpoint
ALTER TABLE "exercise" ADD CONSTRAINT "exercise_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise" ADD CONSTRAINT "exercise_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise" ADD CONSTRAINT "exercise_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_answer" ADD CONSTRAINT "exercise_answer_place_id_exercise_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."exercise_place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_answer" ADD CONSTRAINT "exercise_answer_exercise_id_exercise_id_fk" FOREIGN KEY ("exercise_id") REFERENCES "public"."exercise"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_cards" ADD CONSTRAINT "exercise_cards_exercise_id_exercise_id_fk" FOREIGN KEY ("exercise_id") REFERENCES "public"."exercise"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_place" ADD CONSTRAINT "exercise_place_exercise_id_exercise_id_fk" FOREIGN KEY ("exercise_id") REFERENCES "public"."exercise"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_place" ADD CONSTRAINT "exercise_place_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_place" ADD CONSTRAINT "exercise_place_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_set" ADD CONSTRAINT "exercise_set_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exercise_set" ADD CONSTRAINT "exercise_set_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "exercise_code" ON "exercise" USING btree ("code");--> statement-breakpoint
CREATE INDEX "exercise_started" ON "exercise" USING btree ("started_at");--> statement-breakpoint
CREATE INDEX "exercise_answer_of" ON "exercise_answer" USING btree ("exercise_id","n");--> statement-breakpoint
CREATE UNIQUE INDEX "exercise_place_account" ON "exercise_place" USING btree ("exercise_id","account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "exercise_place_seat" ON "exercise_place" USING btree ("exercise_id","seat_id");--> statement-breakpoint
CREATE INDEX "exercise_place_person" ON "exercise_place" USING btree ("person_id");