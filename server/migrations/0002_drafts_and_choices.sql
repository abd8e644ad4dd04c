CREATE TABLE "pack_draft" (
	"class_id" text PRIMARY KEY NOT NULL,
	"source" text NOT NULL,
	"version" integer NOT NULL,
	"account_id" uuid NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "school_choice" (
	"id" uuid PRIMARY KEY NOT NULL,
	"class_id" text NOT NULL,
	"site" text NOT NULL,
	"school_id" text NOT NULL,
	"option_id" text NOT NULL,
	"reason" text NOT NULL,
	"account_id" uuid NOT NULL,
	"chosen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "pack_revision" ADD COLUMN "published_by" uuid;--> statement-breakpoint
ALTER TABLE "pack_revision" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "pack_draft" ADD CONSTRAINT "pack_draft_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "school_choice" ADD CONSTRAINT "school_choice_class_id_machine_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."machine_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "school_choice_of" ON "school_choice" USING btree ("class_id","site");--> statement-breakpoint
CREATE TRIGGER school_choice_append_only BEFORE UPDATE OR DELETE ON "school_choice" FOR EACH ROW EXECUTE FUNCTION refuse_change();
