-- A form that its table's designers have taken off writes there no more, whatever was released.
CREATE FUNCTION slate.closed_tables(of_release uuid) RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT u.table_id FROM release_table u JOIN form_release r ON r.id = u.release_id
    WHERE u.release_id = of_release AND u.use = 'write'
      AND NOT EXISTS (SELECT 1 FROM table_form f WHERE f.table_id = u.table_id AND f.form_id = r.form_id AND f.state = 'allowed')
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.keeps_in(of_table uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM submission s JOIN release_table r ON r.release_id = s.release_id AND r.use = 'write'
    JOIN table_form f ON f.table_id = r.table_id AND f.form_id = s.form_id AND f.state = 'allowed'
    WHERE s.id = slate.current_submission() AND s.state IN ('kept', 'rehearsing') AND r.table_id = of_table)
$$;
