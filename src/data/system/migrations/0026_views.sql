CREATE TABLE "slate"."table_look" (
	"person_id" uuid NOT NULL,
	"table_id" uuid NOT NULL,
	"look" jsonb NOT NULL,
	CONSTRAINT "table_look_person_id_table_id_pk" PRIMARY KEY("person_id","table_id")
);
--> statement-breakpoint
CREATE TABLE "slate"."table_view" (
	"id" uuid PRIMARY KEY NOT NULL,
	"table_id" uuid NOT NULL,
	"label" text NOT NULL,
	"owner_id" uuid NOT NULL,
	"everybody" boolean DEFAULT false NOT NULL,
	"group_ids" uuid[] DEFAULT '{}' NOT NULL,
	"person_ids" uuid[] DEFAULT '{}' NOT NULL,
	"is_first" boolean DEFAULT false NOT NULL,
	"design" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."table_look" ADD CONSTRAINT "table_look_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_look" ADD CONSTRAINT "table_look_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_view" ADD CONSTRAINT "table_view_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_view" ADD CONSTRAINT "table_view_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "table_view_table" ON "slate"."table_view" USING btree ("table_id");--> statement-breakpoint
CREATE UNIQUE INDEX "table_view_first" ON "slate"."table_view" USING btree ("table_id") WHERE "slate"."table_view"."is_first";--> statement-breakpoint
ALTER TABLE slate.table_look ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_look ON slate.table_look USING (person_id = (SELECT slate.asking()));
--> statement-breakpoint
ALTER TABLE slate.table_view ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- A view says nothing about records: who sees the table sees the views of it that are for them.
CREATE POLICY view_seen ON slate.table_view FOR SELECT USING (slate.may(table_id, 'see')
  AND (owner_id = (SELECT slate.asking()) OR everybody OR (SELECT slate.asking()) = ANY (person_ids)
    OR group_ids && (SELECT slate.groups_of(slate.asking())) OR slate.may(table_id, 'design')));
--> statement-breakpoint
CREATE POLICY view_made ON slate.table_view FOR INSERT WITH CHECK (owner_id = (SELECT slate.asking()) AND slate.may(table_id, 'see') AND (NOT is_first OR slate.may(table_id, 'design')));
--> statement-breakpoint
-- Its owner changes a view; those who design the table may as well, and they alone say which is shown first.
CREATE POLICY view_changed ON slate.table_view FOR UPDATE USING (slate.may(table_id, 'see') AND (owner_id = (SELECT slate.asking()) OR slate.may(table_id, 'design')))
  WITH CHECK (slate.may(table_id, 'see') AND (slate.may(table_id, 'design') OR (owner_id = (SELECT slate.asking()) AND NOT is_first)));
--> statement-breakpoint
CREATE POLICY view_removed ON slate.table_view FOR DELETE USING (owner_id = (SELECT slate.asking()) OR slate.may(table_id, 'design'));
--> statement-breakpoint
-- Whoever takes over for somebody who leaves has their views as well.
CREATE OR REPLACE FUNCTION slate.end_access(who uuid, to_person uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF who = slate.asking() OR who = to_person THEN RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010'; END IF;
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL) THEN RAISE EXCEPTION 'nobody takes over' USING ERRCODE = 'TS010'; END IF;
  UPDATE person SET ended_at = now() WHERE id = who AND ended_at IS NULL;
  DELETE FROM session WHERE person_id = who;
  UPDATE account SET password = NULL WHERE person_id = who;
  UPDATE invitation SET expires_at = now() WHERE person_id = who AND used_at IS NULL;
  UPDATE form SET owner_id = to_person WHERE owner_id = who;
  UPDATE table_view SET owner_id = to_person WHERE owner_id = who;
  INSERT INTO access_grant (table_id, form_id, person_id, action, where_rule, columns, by_id)
    SELECT table_id, form_id, to_person, action, where_rule, columns, slate.asking() FROM access_grant WHERE person_id = who ON CONFLICT DO NOTHING;
  DELETE FROM access_grant WHERE person_id = who;
  UPDATE person SET manager_id = CASE WHEN id = to_person THEN NULL ELSE to_person END WHERE manager_id = who;
  UPDATE person SET deputy_id = NULL WHERE deputy_id = who;
  -- Nobody approves their own: what the successor sent is asked of the administrator, who knows why.
  INSERT INTO ask (submission_id, step, person_id, open, since)
    SELECT a.submission_id, a.step, CASE WHEN s.sender_id = to_person THEN slate.asking() ELSE to_person END, true, a.since FROM ask a JOIN submission s ON s.id = a.submission_id
    WHERE a.person_id = who AND a.open AND (s.sender_id <> to_person OR s.sender_id <> slate.asking()) ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true;
  UPDATE ask SET open = false WHERE person_id = who AND open;
  PERFORM slate.somebody_administers();
END $$;
