CREATE TABLE "sequence_result" (
	"id" uuid PRIMARY KEY NOT NULL,
	"evaluation_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"ended_at" timestamp with time zone NOT NULL,
	"procedures" jsonb NOT NULL,
	"score" text,
	"critical" integer NOT NULL,
	"steps" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "evaluation" ADD COLUMN "purpose" text DEFAULT 'evaluation' NOT NULL;--> statement-breakpoint
ALTER TABLE "sequence_result" ADD CONSTRAINT "sequence_result_evaluation_id_evaluation_id_fk" FOREIGN KEY ("evaluation_id") REFERENCES "public"."evaluation"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sequence_result" ADD CONSTRAINT "sequence_result_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sequence_result_person" ON "sequence_result" USING btree ("person_id","ended_at");--> statement-breakpoint
CREATE INDEX "sequence_result_class" ON "sequence_result" USING btree ("class_id","ended_at");--> statement-breakpoint
CREATE INDEX "sequence_result_evaluation" ON "sequence_result" USING btree ("evaluation_id");