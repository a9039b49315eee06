using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>
/// Words and ids in the database that no program wrote: a bad sector, somebody's hand. An entry that holds one is an entry that cannot be
/// read, and spoils nothing else: what is read in its place is what no entry has, and whoever maps the row sees it.
/// </summary>
public static class Damaged
{
    /// <summary>Columns of entries. Those of the register stay strict: a run whose configuration is unknown must not be taken for
    /// another.</summary>
    internal static void Bear(ModelBuilder model)
    {
        Word<ReadingRecord, SubjectKind>(model, nameof(ReadingRecord.SubjectKind));
        Word<ReadingRecord, Condition>(model, nameof(ReadingRecord.Under));
        Word<ReadingRecord, Condition>(model, nameof(ReadingRecord.Found));
        Word<ReadingRecord, ReadingSource>(model, nameof(ReadingRecord.Source));
        // A Fault stays open, of a row that cannot be read again, and is the worst.
        Word<Fault, SubjectKind>(model, nameof(Fault.SubjectKind), SubjectKind.Place);
        Word<Fault, Condition>(model, nameof(Fault.Under), Condition.Any);
        Word<Fault, Severity>(model, nameof(Fault.Severity), Severity.Critical);
        Word<InstrumentCheck, Core.Measures.Unit>(model, nameof(InstrumentCheck.Unit));
        Word<Picture, PictureMoment>(model, nameof(Picture.Moment), PictureMoment.General);
        Person<ReadingRecord>(model, nameof(ReadingRecord.By));
        model
            .Entity<Fault>()
            .Property(f => f.FromReading)
            .HasConversion(
                new ValueConverter<Guid?, string?>(id => id == null ? null : id.Value.ToString().ToUpperInvariant(), text => Read(text))
            );
        Person<Fault>(model, nameof(Fault.RaisedBy));
        Person<InstrumentCheck>(model, nameof(InstrumentCheck.By));
        Person<Picture>(model, nameof(Picture.By));
    }

    /// <summary>Whether a value stands for a word that is none.</summary>
    public static bool Is<T>(T value)
        where T : struct, Enum => EqualityComparer<T>.Default.Equals(value, Nothing<T>());

    private static T Nothing<T>()
        where T : struct, Enum => (T)Enum.ToObject(typeof(T), int.MaxValue);

    /// <param name="instead">What a word that is none is read as; without it, as what no entry has.</param>
    private static void Word<TEntity, T>(ModelBuilder model, string property, T? instead = null)
        where TEntity : class
        where T : struct, Enum
    {
        var nothing = instead ?? Nothing<T>();
        model
            .Entity<TEntity>()
            .Property<T>(property)
            .HasConversion(new ValueConverter<T, string>(value => value.ToString(), text => Read(text, nothing)));
    }

    private static T Read<T>(string text, T nothing)
        where T : struct, Enum => text.Length > 0 && char.IsLetter(text[0]) && Enum.TryParse<T>(text, out var value) ? value : nothing;

    private static Guid? Read(string? text) => Guid.TryParse(text, out var id) ? id : null;

    private static void Person<TEntity>(ModelBuilder model, string property)
        where TEntity : class =>
        model
            .Entity<TEntity>()
            .Property<Guid>(property)
            .HasConversion(new ValueConverter<Guid, string>(id => id.ToString().ToUpperInvariant(), text => Read(text) ?? Guid.Empty));
}
