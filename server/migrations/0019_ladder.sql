CREATE TABLE "rung_sign_off" (
	"seq" bigserial NOT NULL,
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"class_id" text NOT NULL,
	"rung" text NOT NULL,
	"says" text NOT NULL,
	"on" date NOT NULL,
	"note" text,
	"takes_back" uuid,
	"account_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "rung_sign_off" ADD CONSTRAINT "rung_sign_off_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rung_sign_off" ADD CONSTRAINT "rung_sign_off_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rung_sign_off" ADD CONSTRAINT "rung_sign_off_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "rung_sign_off_person" ON "rung_sign_off" USING btree ("person_id","class_id","seq");--> statement-breakpoint
CREATE TRIGGER rung_sign_off_append_only BEFORE UPDATE OR DELETE ON "rung_sign_off" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER rung_sign_off_kept BEFORE TRUNCATE ON "rung_sign_off" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
