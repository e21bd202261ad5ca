CREATE TABLE "slate"."bulk_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"table_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"what" jsonb NOT NULL,
	"state" text DEFAULT 'running' NOT NULL,
	"progress" jsonb NOT NULL,
	"up_to" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "bulk_change_state" CHECK ("slate"."bulk_change"."state" IN ('running', 'done', 'stopped'))
);
--> statement-breakpoint
CREATE TABLE "slate"."bulk_changed" (
	"bulk_id" uuid NOT NULL,
	"record_id" uuid NOT NULL,
	"back" jsonb NOT NULL,
	CONSTRAINT "bulk_changed_bulk_id_record_id_pk" PRIMARY KEY("bulk_id","record_id")
);
--> statement-breakpoint
ALTER TABLE "slate"."bulk_change" ADD CONSTRAINT "bulk_change_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."bulk_change" ADD CONSTRAINT "bulk_change_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."bulk_changed" ADD CONSTRAINT "bulk_changed_bulk_id_bulk_change_id_fk" FOREIGN KEY ("bulk_id") REFERENCES "slate"."bulk_change"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bulk_change_last" ON "slate"."bulk_change" USING btree ("table_id","person_id","created_at");--> statement-breakpoint
CREATE UNIQUE INDEX "bulk_change_running" ON "slate"."bulk_change" USING btree ("table_id","person_id") WHERE "slate"."bulk_change"."state" = 'running';
--> statement-breakpoint
ALTER TABLE slate.bulk_change ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.bulk_changed ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Each is its asker's, and nobody else's.
CREATE POLICY own ON slate.bulk_change USING (person_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY own ON slate.bulk_changed USING (EXISTS (SELECT 1 FROM slate.bulk_change b WHERE b.id = bulk_id AND b.person_id = (SELECT slate.asking())));
--> statement-breakpoint
CREATE FUNCTION slate.ask_bulk_job(of_change uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM bulk_change WHERE id = of_change AND (person_id = asking() OR session_user = current_user)) THEN RAISE EXCEPTION 'not their change'; END IF;
  PERFORM graphile_worker.add_job('bulk-change', json_build_object('bulk', of_change), job_key := 'bulk-change:' || of_change, max_attempts := 3);
END $$;
