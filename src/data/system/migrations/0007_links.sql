CREATE TABLE "slate"."link" (
	"table_id" uuid PRIMARY KEY NOT NULL,
	"source_id" uuid NOT NULL,
	"mapping" jsonb NOT NULL,
	"every" integer NOT NULL,
	"refreshed_at" timestamp with time zone,
	"tried_at" timestamp with time zone,
	"fault" jsonb,
	"refreshed" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."source" (
	"id" uuid PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"address" jsonb NOT NULL,
	"secret" "bytea",
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."link" ADD CONSTRAINT "link_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."link" ADD CONSTRAINT "link_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "slate"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "link_source" ON "slate"."link" USING btree ("source_id");--> statement-breakpoint
-- Tables of other databases as they stand there; what people see are copies of them in the schema records.
CREATE SCHEMA outside;
--> statement-breakpoint
CREATE FUNCTION slate.tell_link() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('table:' || coalesce(NEW.table_id, OLD.table_id));
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER link_told AFTER INSERT OR UPDATE OR DELETE ON slate.link FOR EACH ROW EXECUTE FUNCTION slate.tell_link();
--> statement-breakpoint
-- Asked by people, and by the clock. One that waits is not asked for twice.
CREATE FUNCTION slate.ask_refresh_job(of_table uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM link WHERE table_id = of_table) THEN RAISE EXCEPTION 'not linked'; END IF;
  PERFORM graphile_worker.add_job('refresh-link', json_build_object('link', of_table), job_key := 'refresh-link:' || of_table, max_attempts := 1);
END $$;
--> statement-breakpoint
-- PostgreSQL keeps the password of another database readable for its owner. So it is given for one transaction at a time, by a process that
-- holds the key of the workspace, and taken away before that ends: at rest there is none. Two transactions to one source take turns.
CREATE FUNCTION slate.open_source(of_source uuid, login text, password text) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp SET lock_timeout = '5s' AS $$
DECLARE was text;
BEGIN
  EXECUTE format('CREATE USER MAPPING FOR CURRENT_USER SERVER %I OPTIONS (user %L, password %L)', 'source_' || replace(of_source::text, '-', ''), login, password);
EXCEPTION WHEN OTHERS THEN
  -- What PostgreSQL says of a statement holds the statement.
  GET STACKED DIAGNOSTICS was = RETURNED_SQLSTATE;
  RAISE EXCEPTION USING ERRCODE = was, MESSAGE = 'a source could not be opened';
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.close_source(of_source uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  EXECUTE format('DROP USER MAPPING IF EXISTS FOR CURRENT_USER SERVER %I', 'source_' || replace(of_source::text, '-', ''));
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.administers() RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM person WHERE id = slate.asking() AND 'administrator' = ANY (roles))
$$;
--> statement-breakpoint
ALTER TABLE slate.source ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Whoever sends a form into a linked table has it opened on their behalf; what is read here is encrypted.
CREATE POLICY source_read ON slate.source FOR SELECT USING (true);
--> statement-breakpoint
CREATE POLICY source_made ON slate.source FOR INSERT WITH CHECK ((SELECT slate.administers()));
--> statement-breakpoint
CREATE POLICY source_changed ON slate.source FOR UPDATE USING ((SELECT slate.administers()));
--> statement-breakpoint
CREATE POLICY source_removed ON slate.source FOR DELETE USING ((SELECT slate.administers()));
--> statement-breakpoint
ALTER TABLE slate.link ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY link_read ON slate.link FOR SELECT USING (true);
--> statement-breakpoint
CREATE POLICY link_changed ON slate.link FOR UPDATE USING ((SELECT slate.may(table_id, 'see')));
--> statement-breakpoint
-- The numbers of many new records at once, in order. Counting one by one within one transaction would go through all that was counted before, each time.
CREATE FUNCTION slate.take_numbers(of_table uuid, many integer) RETURNS SETOF text LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH counted AS (
    INSERT INTO number_counter AS c (table_id, year, last)
    SELECT of_table, CASE t.numbering WHEN 'yearly' THEN extract(year FROM now())::int ELSE 0 END, many FROM designed_table t WHERE t.id = of_table
    ON CONFLICT (table_id, year) DO UPDATE SET last = c.last + many RETURNING last)
  SELECT t.prefix || CASE t.numbering WHEN 'running' THEN '-' ELSE '-' || extract(year FROM now())::int || '-' END || lpad(n::text, greatest(4, length(n::text)), '0')
  FROM counted, designed_table t, generate_series(counted.last - many + 1, counted.last) AS n WHERE t.id = of_table ORDER BY n
$$;
