from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('plans', '0006_followed'),
    ]

    operations = [
        migrations.AddField('revision', 'headlines', models.JSONField(default=dict)),
    ]
