CREATE TABLE "announcement" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "announcement_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"topic" text NOT NULL,
	"data" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "guest_seat" (
	"id" uuid PRIMARY KEY NOT NULL,
	"room" text NOT NULL,
	"name" text NOT NULL,
	"token_hash" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "guest_seat_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE INDEX "announcement_topic" ON "announcement" USING btree ("topic","id");--> statement-breakpoint
CREATE INDEX "announcement_at" ON "announcement" USING btree ("at");--> statement-breakpoint
CREATE INDEX "guest_seat_room" ON "guest_seat" USING btree ("room");