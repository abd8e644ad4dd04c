CREATE TABLE "lesson_plan" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"variant" text NOT NULL,
	"site" text,
	"plan" jsonb NOT NULL,
	"kept_on" date NOT NULL
);
--> statement-breakpoint
ALTER TABLE "lesson_plan" ADD CONSTRAINT "lesson_plan_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lesson_plan" ADD CONSTRAINT "lesson_plan_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;