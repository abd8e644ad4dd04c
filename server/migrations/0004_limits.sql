DROP TABLE "sign_in_attempt" CASCADE;--> statement-breakpoint
CREATE TRIGGER evaluation_event_kept BEFORE TRUNCATE ON "evaluation_event" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER certification_event_kept BEFORE TRUNCATE ON "certification_event" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER audit_kept BEFORE TRUNCATE ON "audit" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER school_choice_kept BEFORE TRUNCATE ON "school_choice" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER certificate_append_only BEFORE UPDATE OR DELETE ON "certificate" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER certificate_kept BEFORE TRUNCATE ON "certificate" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER pack_revision_append_only BEFORE UPDATE OR DELETE ON "pack_revision" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER pack_revision_kept BEFORE TRUNCATE ON "pack_revision" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER rule_set_append_only BEFORE UPDATE OR DELETE ON "rule_set" FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER rule_set_kept BEFORE TRUNCATE ON "rule_set" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
