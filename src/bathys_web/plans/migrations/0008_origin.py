from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('plans', '0007_headlines'),
    ]

    operations = [
        migrations.AddField(
            'savedplan', 'origin',
            models.ForeignKey(null=True, on_delete=models.SET_NULL, related_name='+', to='plans.revision'),
        ),
    ]
