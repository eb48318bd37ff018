"""A revision's content is written once: the database itself refuses to change it."""

from django.db import migrations

FORBID = """
CREATE FUNCTION bathys_refuse_revision_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'a revision never changes';
END
$$;
CREATE TRIGGER revisions_never_change
    BEFORE UPDATE OF document, number, parent_id, plan_id, what_changed, content_hash
    ON plans_revision FOR EACH ROW EXECUTE FUNCTION bathys_refuse_revision_change();
"""
ALLOW = """
DROP TRIGGER revisions_never_change ON plans_revision;
DROP FUNCTION bathys_refuse_revision_change();
"""


class Migration(migrations.Migration):
    dependencies = [("plans", "0001_initial")]
    operations = [migrations.RunSQL(FORBID, ALLOW)]
