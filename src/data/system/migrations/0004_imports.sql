CREATE TABLE "slate"."import_piece" (
	"import_id" uuid NOT NULL,
	"file" integer NOT NULL,
	"piece" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "import_piece_import_id_file_piece_pk" PRIMARY KEY("import_id","file","piece")
);
--> statement-breakpoint
CREATE TABLE "slate"."table_import" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"state" text NOT NULL,
	"files" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"detection" jsonb,
	"samples" jsonb,
	"decisions" jsonb NOT NULL,
	"progress" jsonb,
	"fault" jsonb,
	"result" jsonb,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "table_import_state" CHECK ("slate"."table_import"."state" IN ('uploading', 'reading', 'proposed', 'keeping', 'kept', 'refused', 'failed', 'cancelled'))
);
--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "description" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "personal" text;--> statement-breakpoint
ALTER TABLE "slate"."import_piece" ADD CONSTRAINT "import_piece_import_id_table_import_id_fk" FOREIGN KEY ("import_id") REFERENCES "slate"."table_import"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_import" ADD CONSTRAINT "table_import_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "table_import_person" ON "slate"."table_import" USING btree ("person_id","updated_at");--> statement-breakpoint
ALTER TABLE slate.table_import ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.import_piece ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own ON slate.table_import USING (person_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY own ON slate.import_piece USING (EXISTS (SELECT 1 FROM slate.table_import i WHERE i.id = import_id));
--> statement-breakpoint
CREATE FUNCTION slate.tell_import() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  -- Progress is told by NOTIFY alone: nobody needs to read of it later.
  IF NEW.state IS DISTINCT FROM OLD.state THEN PERFORM slate.tell('import:' || NEW.id); ELSE PERFORM pg_notify('slate_live', 'import:' || NEW.id); END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER import_told AFTER UPDATE OF state, progress ON slate.table_import FOR EACH ROW EXECUTE FUNCTION slate.tell_import();
--> statement-breakpoint
-- The application may ask for these jobs and no others, for whoever asks; it cannot touch the queue itself. The owner role, which takes up
-- what was under way when a worker ended, may ask for any. The same job asked for twice is one.
CREATE FUNCTION slate.ask_import_job(task text, of_import uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF task NOT IN ('read-import', 'keep-import') THEN RAISE EXCEPTION 'no such job: %', task; END IF;
  IF NOT EXISTS (SELECT 1 FROM table_import WHERE id = of_import AND (person_id = asking() OR session_user = current_user)) THEN RAISE EXCEPTION 'not their import'; END IF;
  PERFORM graphile_worker.add_job(task, json_build_object('import', of_import), job_key := task || ':' || of_import, max_attempts := 3);
END $$;
