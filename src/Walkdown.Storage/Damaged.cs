using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
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
        model.Entity<ReadingRecord>().Property(r => r.SubjectKind).HasConversion<WordOrNone<SubjectKind>>();
        model.Entity<ReadingRecord>().Property(r => r.Under).HasConversion<WordOrNone<Condition>>();
        model.Entity<ReadingRecord>().Property(r => r.Found).HasConversion<WordOrNone<Condition>>();
        model.Entity<ReadingRecord>().Property(r => r.Source).HasConversion<WordOrNone<ReadingSource>>();
        model.Entity<ReadingRecord>().Property(r => r.By).HasConversion<IdOrNobody>();
        // A Fault stays open, of a row that cannot be read again, and is the worst.
        model.Entity<Fault>().Property(f => f.SubjectKind).HasConversion<WordOrFirst<SubjectKind>>();
        model.Entity<Fault>().Property(f => f.Under).HasConversion<WordOrFirst<Condition>>();
        model.Entity<Fault>().Property(f => f.Severity).HasConversion<WordOrFirst<Severity>>();
        model.Entity<Fault>().Property(f => f.FromReading).HasConversion<IdOrNobody>();
        model.Entity<Fault>().Property(f => f.RaisedBy).HasConversion<IdOrNobody>();
        model.Entity<InstrumentCheck>().Property(c => c.Unit).HasConversion<WordOrNone<Unit>>();
        model.Entity<InstrumentCheck>().Property(c => c.By).HasConversion<IdOrNobody>();
        model.Entity<Picture>().Property(p => p.Moment).HasConversion<WordOrFirst<PictureMoment>>();
        model.Entity<Picture>().Property(p => p.By).HasConversion<IdOrNobody>();
    }

    /// <summary>Whether a value stands for a word that is none.</summary>
    public static bool Is<T>(T value)
        where T : struct, Enum => EqualityComparer<T>.Default.Equals(value, Nothing<T>());

    /// <summary>A word that can be worked with, where the one on record is none; that it is none is told elsewhere.</summary>
    public static T Or<T>(this T word, T instead)
        where T : struct, Enum => Is(word) ? instead : word;

    private static T Nothing<T>()
        where T : struct, Enum => (T)Enum.ToObject(typeof(T), int.MaxValue);

    internal static T Word<T>(string text)
        where T : struct, Enum => Read(text, Nothing<T>());

    private static T Read<T>(string text, T nothing)
        where T : struct, Enum => text.Length > 0 && char.IsLetter(text[0]) && Enum.TryParse<T>(text, out var value) ? value : nothing;

    /// <summary>A word; what no entry has where what stands there is none.</summary>
    internal sealed class WordOrNone<T>() : ValueConverter<T, string>(value => value.ToString(), text => Word<T>(text))
        where T : struct, Enum;

    /// <summary>A word; the first of its kind where what stands there is none.</summary>
    internal sealed class WordOrFirst<T>() : ValueConverter<T, string>(value => value.ToString(), text => Read(text, default(T)))
        where T : struct, Enum;

    /// <summary>An id; nobody's where what stands there is none.</summary>
    internal sealed class IdOrNobody() : ValueConverter<Guid, byte[]>(id => IdBytes.Of(id), bytes => IdBytes.ReadOrNobody(bytes));
}
