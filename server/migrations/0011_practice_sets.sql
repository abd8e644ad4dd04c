CREATE TABLE "practice_set" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"variant" text NOT NULL,
	"form" text NOT NULL,
	"station" text,
	"times" integer NOT NULL,
	"due_on" date NOT NULL,
	"set_by" uuid NOT NULL,
	"set_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "practice_set" ADD CONSTRAINT "practice_set_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_set" ADD CONSTRAINT "practice_set_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_set" ADD CONSTRAINT "practice_set_set_by_account_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "practice_set_of" ON "practice_set" USING btree ("person_id","due_on");