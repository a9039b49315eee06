using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using Microsoft.Extensions.DependencyInjection;

namespace Walkdown.Access;

/// <summary>Accounts in a file of their own beside the record: in no bundle, no pack and no backup.</summary>
public sealed class AccessDb(DbContextOptions<AccessDb> options) : IdentityUserContext<Account, Guid>(options)
{
    public DbSet<Membership> Memberships => Set<Membership>();
    public DbSet<Invitation> Invitations => Set<Invitation>();
    public DbSet<Session> Sessions => Set<Session>();
    public DbSet<ShortCode> ShortCodes => Set<ShortCode>();
    public DbSet<AccessEvent> Events => Set<AccessEvent>();

    /// <summary>With passkeys, however it is opened: the mapper asks here which tables there are.</summary>
    internal static readonly IServiceProvider WithPasskeys = new ServiceCollection()
        .Configure<IdentityOptions>(o => o.Stores.SchemaVersion = IdentitySchemaVersions.Version3)
        .BuildServiceProvider();

    protected override void ConfigureConventions(ModelConfigurationBuilder conventions) =>
        conventions.Properties<DateTimeOffset>().HaveConversion<DateTimeOffsetToBinaryConverter>();

    protected override void OnModelCreating(ModelBuilder model)
    {
        base.OnModelCreating(model);
        model.Entity<Account>(account =>
        {
            account.Ignore(a => a.Roles);
            // No post is sent and no telephone called: what is not kept cannot leak.
            account.Ignore(a => a.Email).Ignore(a => a.NormalizedEmail).Ignore(a => a.EmailConfirmed);
            account.Ignore(a => a.PhoneNumber).Ignore(a => a.PhoneNumberConfirmed).Ignore(a => a.TwoFactorEnabled);
        });
        model.Entity<Membership>().HasKey(m => new { m.AccountId, m.JobId });
        model.Entity<Membership>().HasIndex(m => new { m.JobId, m.PersonId }).IsUnique();
        model.Entity<Membership>().HasOne<Account>().WithMany().HasForeignKey(m => m.AccountId);
        model.Entity<Invitation>().Ignore(i => i.Roles).HasIndex(i => i.CodeHash).IsUnique();
        model.Entity<Session>().HasIndex(s => s.KeyHash).IsUnique();
        model.Entity<Session>().HasOne<Account>().WithMany().HasForeignKey(s => s.AccountId);
        model.Entity<ShortCode>().HasKey(c => new { c.DeviceHash, c.AccountId });
        model.Entity<ShortCode>().HasOne<Account>().WithMany().HasForeignKey(c => c.AccountId);
        model.Entity<AccessEvent>().HasIndex(e => e.At);
    }
}

/// <summary>For the tool that writes migrations.</summary>
internal sealed class AccessDbAtDesign : IDesignTimeDbContextFactory<AccessDb>
{
    public AccessDb CreateDbContext(string[] args) =>
        new(
            new DbContextOptionsBuilder<AccessDb>()
                .UseSqlite("Data Source=:memory:")
                .UseApplicationServiceProvider(AccessDb.WithPasskeys)
                .Options
        );
}
