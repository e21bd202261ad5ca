CREATE TABLE "slate"."file_piece" (
	"file_id" uuid NOT NULL,
	"piece" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "file_piece_file_id_piece_pk" PRIMARY KEY("file_id","piece")
);
--> statement-breakpoint
CREATE TABLE "slate"."file" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"type" text DEFAULT '' NOT NULL,
	"size" bigint NOT NULL,
	"width" integer,
	"height" integer,
	"thumb" "bytea",
	"state" text DEFAULT 'coming' NOT NULL,
	"by_id" uuid NOT NULL,
	"submission_id" uuid,
	"table_id" uuid,
	"record_id" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "file_state" CHECK ("slate"."file"."state" IN ('coming', 'whole'))
);
--> statement-breakpoint
ALTER TABLE "slate"."file_piece" ADD CONSTRAINT "file_piece_file_id_file_id_fk" FOREIGN KEY ("file_id") REFERENCES "slate"."file"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."file" ADD CONSTRAINT "file_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."file" ADD CONSTRAINT "file_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "file_maker" ON "slate"."file" USING btree ("by_id") WHERE record_id IS NULL;--> statement-breakpoint
CREATE INDEX "file_submission" ON "slate"."file" USING btree ("submission_id");--> statement-breakpoint
CREATE INDEX "file_record" ON "slate"."file" USING btree ("record_id");--> statement-breakpoint
ALTER TABLE slate.file ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.file_piece ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Bytes of photos do not get smaller by being packed once more.
ALTER TABLE slate.file_piece ALTER COLUMN bytes SET STORAGE EXTERNAL;
--> statement-breakpoint
-- Whether whoever asks sees a record, by the policies of its table: so it runs with their rights.
CREATE FUNCTION slate.sees_record(of_table uuid, of_record uuid) RETURNS boolean LANGUAGE plpgsql STABLE AS $$
DECLARE
  key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
  found boolean;
BEGIN
  IF key IS NULL THEN RETURN false; END IF;
  EXECUTE format('SELECT EXISTS (SELECT 1 FROM records.%I WHERE id = $1)', key) INTO found USING of_record;
  RETURN found;
END $$;
--> statement-breakpoint
-- A file is its maker's alone until it is sent; then whoever sees the submission sees it, and whoever sees the record it is kept in.
CREATE POLICY seen ON slate.file FOR SELECT USING (
  (by_id = (SELECT slate.asking()) AND record_id IS NULL)
  OR EXISTS (SELECT 1 FROM slate.submission s WHERE s.id = submission_id)
  OR (record_id IS NOT NULL AND slate.sees_record(table_id, record_id)));
--> statement-breakpoint
CREATE POLICY brought ON slate.file FOR INSERT WITH CHECK (by_id = (SELECT slate.asking()) AND state = 'coming' AND submission_id IS NULL AND record_id IS NULL);
--> statement-breakpoint
CREATE POLICY finished ON slate.file FOR UPDATE USING (by_id = (SELECT slate.asking()) AND state = 'coming') WITH CHECK (by_id = (SELECT slate.asking()) AND submission_id IS NULL AND record_id IS NULL);
--> statement-breakpoint
CREATE POLICY seen ON slate.file_piece FOR SELECT USING (EXISTS (SELECT 1 FROM slate.file f WHERE f.id = file_id));
--> statement-breakpoint
CREATE POLICY brought ON slate.file_piece FOR INSERT WITH CHECK (EXISTS (SELECT 1 FROM slate.file f WHERE f.id = file_id AND f.by_id = (SELECT slate.asking()) AND f.state = 'coming'));
--> statement-breakpoint
CREATE POLICY brought_again ON slate.file_piece FOR UPDATE USING (EXISTS (SELECT 1 FROM slate.file f WHERE f.id = file_id AND f.by_id = (SELECT slate.asking()) AND f.state = 'coming'));
--> statement-breakpoint
CREATE POLICY taken_away ON slate.file_piece FOR DELETE USING (EXISTS (SELECT 1 FROM slate.file f WHERE f.id = file_id AND f.by_id = (SELECT slate.asking()) AND f.state = 'coming'));
--> statement-breakpoint
-- Files go with a submission once, at its sending, and are its sender's. Gives those that could not.
CREATE FUNCTION slate.send_files(of_submission uuid, ids uuid[]) RETURNS uuid[] LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE file SET submission_id = of_submission WHERE id = ANY (ids) AND state = 'whole' AND by_id = slate.asking() AND submission_id IS NULL AND record_id IS NULL
    AND EXISTS (SELECT 1 FROM submission s WHERE s.id = of_submission AND s.sender_id = slate.asking());
  RETURN ARRAY(SELECT unnest(ids) EXCEPT SELECT f.id FROM file f WHERE f.id = ANY (ids) AND f.submission_id = of_submission);
END $$;
--> statement-breakpoint
-- Files are kept in one record: those of the submission that is being kept, or that whoever asks has just brought. Gives those that could not.
CREATE FUNCTION slate.keep_files(of_table uuid, of_record uuid, ids uuid[]) RETURNS uuid[] LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE file SET table_id = of_table, record_id = of_record WHERE id = ANY (ids) AND state = 'whole' AND record_id IS NULL
    AND (submission_id = slate.current_submission() OR (submission_id IS NULL AND by_id = slate.asking()));
  RETURN ARRAY(SELECT unnest(ids) EXCEPT SELECT f.id FROM file f WHERE f.id = ANY (ids) AND f.table_id = of_table AND f.record_id = of_record);
END $$;
