CREATE TABLE "slate"."directory" (
	"only_one" boolean PRIMARY KEY DEFAULT true NOT NULL,
	"source_id" uuid NOT NULL,
	"every" integer NOT NULL,
	"ends_access" boolean NOT NULL,
	"named_by_id" uuid NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"due_at" timestamp with time zone NOT NULL,
	"tried_at" timestamp with time zone NOT NULL,
	"followed_at" timestamp with time zone NOT NULL,
	"outcome" jsonb NOT NULL,
	"told_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "slate"."directory_member" (
	"person_id" uuid PRIMARY KEY NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."account_mail" DROP CONSTRAINT "account_mail_kind";--> statement-breakpoint
ALTER TABLE "slate"."directory" ADD CONSTRAINT "directory_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "slate"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."directory" ADD CONSTRAINT "directory_named_by_id_person_id_fk" FOREIGN KEY ("named_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."directory_member" ADD CONSTRAINT "directory_member_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."account_mail" ADD CONSTRAINT "account_mail_kind" CHECK ("slate"."account_mail"."kind" IN ('invited', 'forgotten', 'changed', 'signing-in', 'stuck', 'stopped', 'people-list'));
--> statement-breakpoint
-- The list of people is for administrators, and one of them names it as themselves.
ALTER TABLE slate.directory ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY directory_read ON slate.directory FOR SELECT USING ((SELECT slate.administers()));
--> statement-breakpoint
CREATE POLICY directory_made ON slate.directory FOR INSERT WITH CHECK ((SELECT slate.administers()) AND named_by_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY directory_changed ON slate.directory FOR UPDATE USING ((SELECT slate.administers())) WITH CHECK (named_by_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY directory_removed ON slate.directory FOR DELETE USING ((SELECT slate.administers()));
--> statement-breakpoint
ALTER TABLE slate.directory_member ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY directory_member_all ON slate.directory_member USING ((SELECT slate.administers()));
--> statement-breakpoint
-- What a line of the trail is about, as before, and the list by the name of its source.
CREATE OR REPLACE FUNCTION slate.trail_label(about text, line jsonb) RETURNS text LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN coalesce(left(CASE
    WHEN about IN ('right', 'form-writes') AND line->>'table_id' IS NOT NULL THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid)
    WHEN about IN ('right', 'outside-words') THEN (SELECT design->>'title' FROM form WHERE id = (line->>'form_id')::uuid)
    WHEN about = 'form' THEN line->'design'->>'title'
    WHEN about = 'release' THEN line->'design'->>'title'
    WHEN about = 'outside-link' THEN line->>'label' || ' · ' || (SELECT design->>'title' FROM form WHERE id = (line->>'form_id')::uuid)
    WHEN about = 'column' THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid) || ' · ' || (line->>'label')
    WHEN about = 'linked-table' THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid)
    WHEN about IN ('absence', 'password', 'invitation', 'session', 'second-step', 'passkey') THEN (SELECT name FROM person WHERE id = (line->>'person_id')::uuid)
    WHEN about = 'people-list' THEN (SELECT label FROM source WHERE id = (line->>'source_id')::uuid)
    WHEN about = 'look' THEN (SELECT name FROM person WHERE id = (line->>'as_id')::uuid)
    ELSE coalesce(line->>'label', line->>'name') END, 300), '');
END $$;
--> statement-breakpoint
CREATE TRIGGER trail_directory AFTER INSERT OR UPDATE OR DELETE ON slate.directory FOR EACH ROW EXECUTE FUNCTION slate.note_trail('people-list', 'source_id,every,ends_access,named_by_id');
--> statement-breakpoint
-- Administrators are told once that the list is not followed, until it is again.
CREATE FUNCTION slate.tell_of_list() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO account_mail (person_id, kind) SELECT id, 'people-list' FROM person WHERE ended_at IS NULL AND 'administrator' = ANY (roles);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER told_of_list AFTER UPDATE OF told_at ON slate.directory FOR EACH ROW WHEN (OLD.told_at IS NULL AND NEW.told_at IS NOT NULL) EXECUTE FUNCTION slate.tell_of_list();
