CREATE TABLE "calibration" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"account_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"pack_hash" text NOT NULL,
	"round" jsonb NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"closed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "calibration_scores" (
	"calibration_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"scores" jsonb NOT NULL,
	"way" text NOT NULL,
	"handed_in_at" timestamp with time zone,
	CONSTRAINT "calibration_scores_calibration_id_account_id_pk" PRIMARY KEY("calibration_id","account_id")
);
--> statement-breakpoint
ALTER TABLE "calibration" ADD CONSTRAINT "calibration_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibration" ADD CONSTRAINT "calibration_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibration" ADD CONSTRAINT "calibration_pack_hash_effective_pack_hash_fk" FOREIGN KEY ("pack_hash") REFERENCES "public"."effective_pack"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibration_scores" ADD CONSTRAINT "calibration_scores_calibration_id_calibration_id_fk" FOREIGN KEY ("calibration_id") REFERENCES "public"."calibration"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibration_scores" ADD CONSTRAINT "calibration_scores_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "calibration_started" ON "calibration" USING btree ("started_at");--> statement-breakpoint
CREATE INDEX "calibration_scores_of" ON "calibration_scores" USING btree ("account_id","handed_in_at");