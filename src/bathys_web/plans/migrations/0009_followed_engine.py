from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('plans', '0008_origin'),
    ]

    operations = [
        migrations.AddField(
            model_name='followed',
            name='engine',
            field=models.CharField(default='', max_length=16),
            preserve_default=False,
        ),
    ]
