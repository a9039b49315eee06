using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>The one database file. Moments are kept as milliseconds since 1970, UTC; enums as words; ids as their 16 bytes.</summary>
public sealed class WalkdownDb(DbContextOptions<WalkdownDb> options) : DbContext(options)
{
    public DbSet<Job> Jobs => Set<Job>();
    public DbSet<Area> Areas => Set<Area>();
    public DbSet<Cabinet> Cabinets => Set<Cabinet>();
    public DbSet<Port> Ports => Set<Port>();
    public DbSet<Device> Devices => Set<Device>();
    public DbSet<InstalledUnit> Units => Set<InstalledUnit>();
    public DbSet<Installation> Installations => Set<Installation>();
    public DbSet<Head> Heads => Set<Head>();
    public DbSet<Channel> Channels => Set<Channel>();
    public DbSet<Run> Runs => Set<Run>();
    public DbSet<RunEnd> RunEnds => Set<RunEnd>();
    public DbSet<Person> People => Set<Person>();
    public DbSet<InstrumentRecord> Instruments => Set<InstrumentRecord>();
    public DbSet<ReadingRecord> Readings => Set<ReadingRecord>();
    public DbSet<CardEventRecord> CardEvents => Set<CardEventRecord>();
    public DbSet<Fault> Faults => Set<Fault>();
    public DbSet<FaultStep> FaultSteps => Set<FaultStep>();
    public DbSet<JournalEntry> Journal => Set<JournalEntry>();
    public DbSet<CardSummary> Cards => Set<CardSummary>();
    public DbSet<RegisterChange> RegisterChanges => Set<RegisterChange>();
    public DbSet<Remembered> Memory => Set<Remembered>();
    public DbSet<PlanDrawing> Drawings => Set<PlanDrawing>();
    public DbSet<InstrumentCheck> InstrumentChecks => Set<InstrumentCheck>();
    public DbSet<PowerSource> Sources => Set<PowerSource>();
    public DbSet<Edition> Editions => Set<Edition>();
    public DbSet<Picture> Pictures => Set<Picture>();
    public DbSet<Erasure> Erasures => Set<Erasure>();
    public DbSet<Revision> Revisions => Set<Revision>();
    public DbSet<ObservationRecord> Observations => Set<ObservationRecord>();
    public DbSet<NetworkLook> Looks => Set<NetworkLook>();

    /// <summary>Tables to which rows are only added.</summary>
    public static readonly string[] AppendOnly =
    [
        "Readings",
        "CardEvents",
        "Faults",
        "FaultSteps",
        "Journal",
        "RegisterChanges",
        "InstrumentChecks",
        "Editions",
        "Pictures",
        "Erasures",
        "Revisions",
        "Observations",
        "Looks",
    ];

    private const string Labels = "NOCASE";

    protected override void ConfigureConventions(ModelConfigurationBuilder builder)
    {
        builder.Properties<DateTimeOffset>().HaveConversion<MomentConverter>();
        builder.Properties<Guid>().HaveConversion<IdBytes.Converter>();
        builder.DefaultTypeMapping<Guid>().HasConversion<IdBytes.Converter>();
        builder.Properties<Enum>().HaveConversion<string>();
    }

    protected override void OnModelCreating(ModelBuilder model)
    {
        // Labels differ by more than the case of a letter (Core's Labels.Comparer says the same).
        model.Entity<Area>().Property(a => a.Name).UseCollation(Labels);
        model.Entity<Cabinet>().Property(c => c.Label).UseCollation(Labels);
        model.Entity<Port>().Property(p => p.Switch).UseCollation(Labels);
        model.Entity<Device>().Property(d => d.Label).UseCollation(Labels);
        model.Entity<Device>().Property(d => d.Supply).UseCollation(Labels);
        model.Entity<InstalledUnit>().Property(u => u.Serial).UseCollation(Labels);
        model.Entity<Run>().Property(r => r.Label).UseCollation(Labels);
        model.Entity<PowerSource>().Property(s => s.Label).UseCollation(Labels);
        model.Entity<Area>().HasIndex(a => new { a.JobId, a.Name }).IsUnique();
        model.Entity<Cabinet>().HasIndex(c => new { c.JobId, c.Label }).IsUnique();
        model
            .Entity<Port>()
            .HasIndex(p => new
            {
                p.CabinetId,
                p.Switch,
                p.Number,
            })
            .IsUnique();
        model.Entity<RunEnd>().HasIndex(e => e.PortId);
        model.Entity<Device>().HasIndex(d => new { d.JobId, d.Label }).IsUnique();
        model.Entity<InstalledUnit>().HasIndex(u => new { u.JobId, u.Serial }).IsUnique().HasFilter("Serial <> ''");
        model.Entity<Installation>().HasIndex(i => i.DeviceId);
        model.Entity<Head>().HasIndex(h => new { h.DeviceId, h.Number }).IsUnique();
        model.Entity<Channel>().HasIndex(c => new { c.RecorderId, c.Number });
        model.Entity<Channel>().HasIndex(c => c.HeadId);
        model.Entity<Run>().HasIndex(r => new { r.JobId, r.Label }).IsUnique();
        model.Entity<Run>().HasMany(r => r.Ends).WithOne().HasForeignKey(e => e.RunId);
        model.Entity<RunEnd>().HasIndex(e => e.DeviceId);
        model.Entity<Device>().HasOne(d => d.Area).WithMany().HasForeignKey(d => d.AreaId);
        model.Entity<InstrumentRecord>().ToTable("Instruments").HasIndex(i => i.JobId);
        model.Entity<InstrumentRecord>().Property(i => i.CalibratedOn).HasConversion<DayConverter>();
        model.Entity<InstrumentRecord>().Property(i => i.CalibrationDue).HasConversion<DayConverter>();
        model.Entity<ReadingRecord>().ToTable("Readings").HasIndex(r => r.SubjectId);
        model.Entity<ReadingRecord>().HasIndex(r => r.DeviceId);
        model.Entity<CardEventRecord>().ToTable("CardEvents").HasIndex(e => e.DeviceId);
        model.Entity<CardEventRecord>().HasIndex(e => e.SubjectId);
        Damaged.Bear(model);
        RegisterDamage.Bear(model);
        model.Entity<Fault>().HasIndex(f => f.DeviceId);
        model.Entity<FaultStep>().HasIndex(f => f.FaultId);
        model.Entity<JournalEntry>().ToTable("Journal").HasKey(j => j.Sequence);
        model.Entity<JournalEntry>().Property(j => j.Sequence).ValueGeneratedNever();
        model.Entity<JournalEntry>().HasIndex(j => j.Id).IsUnique();
        model.Entity<CardSummary>().ToTable("Cards").HasKey(c => c.DeviceId);
        model.Entity<CardSummary>().HasIndex(c => c.JobId);
        model.Entity<RegisterChange>().HasIndex(c => c.DeviceId);
        model.Entity<Remembered>().ToTable("Memory").HasKey(r => r.Key);
        model.Entity<PlanDrawing>().ToTable("Drawings").HasKey(d => d.JobId);
        model.Entity<InstrumentCheck>().HasIndex(c => c.InstrumentId);
        model
            .Entity<PowerSource>()
            .ToTable("Sources")
            .HasIndex(s => new
            {
                s.JobId,
                s.Kind,
                s.CabinetId,
                s.Label,
            })
            .IsUnique();
        model.Entity<Edition>().HasIndex(e => new { e.Of, e.Version }).IsUnique();
        model.Entity<Picture>().HasIndex(p => p.DeviceId);
        model.Entity<Picture>().HasIndex(p => p.JobId);
        model.Entity<Erasure>().HasIndex(e => e.PictureId).IsUnique();
        model.Entity<ObservationRecord>().HasIndex(o => o.DeviceId);
        model.Entity<NetworkLook>().ToTable("Looks").HasIndex(l => new { l.JobId, l.At });
        model
            .Entity<Revision>()
            .HasIndex(r => new
            {
                r.JobId,
                r.DeviceId,
                r.Number,
            });
        foreach (
            var key in model
                .Model.GetEntityTypes()
                .Select(t => t.FindPrimaryKey())
                .OfType<Microsoft.EntityFrameworkCore.Metadata.IMutableKey>()
        )
        foreach (var property in key.Properties)
            property.ValueGenerated = Microsoft.EntityFrameworkCore.Metadata.ValueGenerated.Never;
    }

    /// <summary>A day as ISO 8601. What no program wrote is no day: an instrument without a calibration on record, whose readings do not
    /// count until somebody gives it.</summary>
    internal sealed class DayConverter()
        : ValueConverter<DateOnly?, string?>(
            day => day == null ? null : day.Value.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
            text => Read(text)
        )
    {
        internal static DateOnly? Read(string? text) =>
            DateOnly.TryParseExact(text, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture, default, out var day)
                ? day
                : null;
    }

    internal sealed class MomentConverter()
        : ValueConverter<DateTimeOffset, long>(
            moment => moment.ToUnixTimeMilliseconds(),
            milliseconds => DateTimeOffset.FromUnixTimeMilliseconds(milliseconds)
        );
}

/// <summary>For the migration tool only.</summary>
public sealed class DesignTimeFactory : Microsoft.EntityFrameworkCore.Design.IDesignTimeDbContextFactory<WalkdownDb>
{
    public WalkdownDb CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<WalkdownDb>().UseSqlite("Data Source=:memory:").Options);
}
